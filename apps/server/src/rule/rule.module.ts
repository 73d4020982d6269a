import { RULE_EVENTS } from '@crew/contract';
import { job, type Area } from '../platform/area.ts';
import { AddExampleRules } from './add-example-rules.ts';
import { CarryOut } from './carry-out.ts';
import { ChoosePerson } from './choose-person.ts';
import { DecideRuns } from './decide-runs.ts';
import { Effects } from './effects/index.ts';
import { KeepRules } from './keep-rules.ts';
import { ReachMarks } from './reach-marks.ts';
import { ReadRules } from './read-rules.ts';
import { ReadRuns } from './read-runs.ts';
import { RuleController } from './rule.controller.ts';
import { Rule, RuleEffect, RuleException, RuleMark, RuleRun } from './rule.entity.ts';
import { TryRule } from './try-rule.ts';
import { RULE_KEPT_EVENTS, UndoRules } from './undo-rules.ts';
import { UndoRun } from './undo-run.ts';

export const rule: Area = {
  controllers: [RuleController],
  providers: [
    AddExampleRules,
    ReadRules,
    KeepRules,
    TryRule,
    ReadRuns,
    UndoRun,
    UndoRules,
    DecideRuns,
    CarryOut,
    ChoosePerson,
    Effects,
    ReachMarks,
  ],
  entities: [Rule, RuleException, RuleRun, RuleEffect, RuleMark],
  jobs: [
    job({ name: 'carry-out-rules', by: CarryOut, run: (handler, payload) => handler.run(payload) }),
    job({ name: 'reach-marks', by: ReachMarks, run: (handler) => handler.run(), at: '*/15 * * * *', isAlone: true }),
  ],
  followers: [
    { kinds: ['time-logged', 'time-corrected'], by: ReachMarks },
    { kinds: RULE_EVENTS, by: DecideRuns },
  ],
  undoing: [{ kinds: RULE_KEPT_EVENTS, by: UndoRules }],
};
