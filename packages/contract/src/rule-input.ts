import { RULE_LEVEL, type RuleLevel } from '@crew/core';
import { IsBoolean, IsIn, IsInt, registerDecorator, type ValidationArguments } from 'class-validator';
import { ruleProblem, type RuleContent } from './rule/content.ts';
import { IsId, MayBeLeftOut, MayBeNull } from './rules.ts';

/** What a rule waits for, asks and does; the first fault is reported with its place, as “then.0.text”. */
const IsRuleContent = (): PropertyDecorator => (target, property) =>
  registerDecorator({
    name: 'isRuleContent',
    target: target.constructor,
    propertyName: String(property),
    validator: {
      validate: (value: unknown) => ruleProblem(value) === null,
      defaultMessage: ({ value }: ValidationArguments) => {
        const problem = ruleProblem(value);
        return problem === null ? '' : `${problem.words} See ${problem.at}.`;
      },
    },
  });

/** Where a rule holds: in the whole agency, in engagements of one template, or in one engagement. */
class RulePlace {
  @IsIn(RULE_LEVEL, { message: `A rule holds for one of ${RULE_LEVEL.join(', ')}.` })
  level!: RuleLevel;

  @MayBeLeftOut()
  @IsId({ message: 'Choose the template.' })
  templateId?: string;

  @MayBeLeftOut()
  @IsId({ message: 'Choose the engagement.' })
  engagementId?: string;
}

/** A rule as it is to be saved. */
class WrittenRule extends RulePlace {
  @IsRuleContent()
  content!: RuleContent;

  /** The rule it replaces where it holds. */
  @MayBeLeftOut()
  @IsId({ message: 'Choose the rule it replaces.' })
  replacesId?: string;
}

/** A new rule, last among those of its level. */
export class AddRule extends WrittenRule {
  @MayBeLeftOut()
  @IsBoolean({ message: 'On is yes or no.' })
  isOn?: boolean;
}

/** Changes of a rule; only the fields given change. `version` is the one that was read. */
export class EditRule {
  @IsInt({ message: 'Send the version that was read.' })
  version!: number;

  @MayBeLeftOut()
  @IsRuleContent()
  content?: RuleContent;

  @MayBeLeftOut()
  @IsBoolean({ message: 'On is yes or no.' })
  isOn?: boolean;

  /** Comes before this one of the same level; null puts it last. */
  @MayBeLeftOut()
  @MayBeNull()
  @IsId()
  beforeId?: string | null;
}

/** Where a rule is switched off: in the engagements of one template, or in one engagement. */
export class ExceptRule {
  @MayBeLeftOut()
  @IsId({ message: 'Choose the template.' })
  templateId?: string;

  @MayBeLeftOut()
  @IsId({ message: 'Choose the engagement.' })
  engagementId?: string;
}

export const TRIED_DAYS = [7, 30, 90] as const;

/** Previews a rule over past events. A rule that is being edited is named, so that it is not tried beside itself. */
export class TryRule extends WrittenRule {
  @IsIn(TRIED_DAYS, { message: `Try the last ${TRIED_DAYS.join(', ')} days.` })
  days!: (typeof TRIED_DAYS)[number];

  @MayBeLeftOut()
  @IsId()
  ruleId?: string;
}
