import type { RuleChoices, RuleLine } from '@crew/contract';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import type { SlotChoice } from './slot-choices.ts';
import { SlotButton } from './SlotButton.tsx';
import { SlotList } from './SlotList.tsx';
import { endException, exceptRule } from './use-rules.ts';

const Lines = styled.div`
  margin-bottom: 10px;
`;
const Line = styled.div`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 8px;
`;

/** Where a rule that holds more widely is switched off. */
export function RuleExceptions({ rule, choices }: { readonly rule: RuleLine; readonly choices: RuleChoices }) {
  if (rule.level === 'engagement') return null;
  const places: SlotChoice[] = [
    ...(rule.level === 'template'
      ? []
      : choices.templates.map(({ id, name }) => ({ id: `template ${id}`, name: `Template: ${name}`, value: id }))),
    ...choices.engagements.map(({ id, name }) => ({ id: `engagement ${id}`, name, value: id })),
  ];
  const except = ({ id, name, value }: SlotChoice): void =>
    void exceptRule(rule, id.startsWith('template') ? { templateId: String(value) } : { engagementId: String(value) }, name);
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
      <SlotButton isPlain words="Switch off for one…" label="Switch off for a template or an engagement">
        {(close) => (
          <SlotList
            label="Template or engagement"
            choices={places}
            chosen=""
            onChoose={(choice) => {
              except(choice);
              close();
            }}
          />
        )}
      </SlotButton>
    </Lines>
  );
}
