import type { RuleChoices, RuleLine } from '@crew/contract';
import styled from 'styled-components';
import { troubleWords } from '../../api/client.ts';
import { notify } from '../../ui/toasts.tsx';
import { Button } from '../../ui/Button.tsx';
import type { SlotChoice } from './slot-choices.ts';
import { SlotButton } from './SlotButton.tsx';
import { SlotList } from './SlotList.tsx';
import { endException, exceptRule, saveRule } from './use-rules.ts';

const Lines = styled.div`
  margin-bottom: 10px;
`;
const Line = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
`;

const WAYS = [
  { by: 'off', words: 'Switch off for one…', label: 'Switch off for a template or an engagement' },
  { by: 'change', words: 'Change for one…', label: 'Change for a template or an engagement' },
] as const;

interface ExceptionsProps {
  readonly rule: RuleLine;
  readonly choices: RuleChoices;
  /** Opens the rule that replaces it somewhere. */
  readonly onChanged: (id: string) => void;
}

/** Where a rule is switched off, or replaced by another. */
export function RuleExceptions({ rule, choices, onChanged }: ExceptionsProps) {
  if (rule.level === 'engagement') return null;
  const places: SlotChoice[] = [
    ...(rule.level === 'template'
      ? []
      : choices.templates.map(({ id, name }) => ({ id: `template ${id}`, name: `Template: ${name}`, value: id }))),
    ...choices.engagements.map(({ id, name }) => ({ id: `engagement ${id}`, name, value: id })),
  ];
  const except = ({ id, name, value }: SlotChoice): void =>
    void exceptRule(rule, id.startsWith('template') ? { templateId: String(value) } : { engagementId: String(value) }, name);
  /** A copy at first, to be edited there. */
  const change = ({ id, value }: SlotChoice): void => {
    const place = id.startsWith('template')
      ? ({ level: 'template', templateId: String(value) } as const)
      : ({ level: 'engagement', engagementId: String(value) } as const);
    saveRule({ ...place, replacesId: rule.id, content: rule.content }, null).then(onChanged, (error: unknown) =>
      notify(troubleWords(error), { tone: 'trouble' }),
    );
  };
  return (
    <Lines>
      {rule.exceptions.map((exception) => (
        <Line key={exception.id}>
          <span>
            Off for {exception.of === 'template' ? 'the template ' : ''}
            <strong>{exception.name}</strong>
          </span>
          <Button kind="quiet" onPress={() => void endException(rule, exception)}>
            Switch on again
          </Button>
        </Line>
      ))}
      {WAYS.map(({ words, label, by }) => (
        <SlotButton key={by} isPlain words={words} label={label}>
          {(close) => (
            <SlotList
              label="Template or engagement"
              choices={places}
              chosen=""
              onChoose={(choice) => {
                (by === 'off' ? except : change)(choice);
                close();
              }}
            />
          )}
        </SlotButton>
      ))}
    </Lines>
  );
}
