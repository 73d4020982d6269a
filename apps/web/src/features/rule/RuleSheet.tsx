import { can, type RuleChoices, type RuleLine, type RuleList } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { troubleWords } from '../../api/client.ts';
import { useWho } from '../../session/session.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Inline, Loading, Muted, Push } from '../../ui/layout.tsx';
import { Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';
import { Note, Trouble } from '../../ui/text.tsx';
import { draftOf, missingIn, newDraft, type Draft } from './draft.ts';
import { RuleExceptions } from './RuleExceptions.tsx';
import { RuleText } from './RuleText.tsx';
import { RuleTrialView } from './RuleTrialView.tsx';
import { SentenceEditor } from './SentenceEditor.tsx';
import { placeRule, removeRule, saveRule, switchRule } from './use-rules.ts';
import { FoldedHistory } from '../history/FoldedHistory.tsx';

const Foot = styled.footer`
  position: sticky;
  bottom: -20px;
  display: flex;
  align-items: center;
  flex-wrap: wrap;
  gap: 8px;
  margin: 14px -16px -20px;
  padding: 10px 16px;
  border-top: 1px solid var(--line);
  background: var(--panel);
`;

interface RuleSheetProps {
  /** Null for a new one. */
  readonly rule: RuleLine | null;
  readonly list: RuleList;
  readonly choices: RuleChoices | undefined;
  readonly onClose: () => void;
  readonly onSaved: (id: string) => void;
}

/** One rule: read, tried on the past, and for leads edited. */
export function RuleSheet({ rule, list, choices, onClose, onSaved }: RuleSheetProps) {
  const me = useWho();
  const title = !can(me, 'rule.edit') ? 'Rule' : rule === null ? 'New rule' : 'Edit rule';
  return (
    <Sheet label={title} line={rule === null ? 'Rule' : `${placeOf(rule)} · rule${rule.isOn ? '' : ' · switched off'}`} onClose={onClose}>
      <SheetTitle>{title}</SheetTitle>
      {!can(me, 'rule.edit') && rule !== null ? (
        <>
          <p>
            <RuleText content={rule.content} names={list.names} />
          </p>
          <RuleTrialView draft={draftOf(rule)} ruleId={rule.id} />
        </>
      ) : choices === undefined ? (
        <Loading rows={4} />
      ) : (
        // After somebody else's change, or one's own save, the editor starts again from what is saved.
        <Editing key={`${rule?.id} ${rule?.version}`} rule={rule} list={list} choices={choices} onClose={onClose} onSaved={onSaved} />
      )}
    </Sheet>
  );
}

export const placeOf = ({ template, engagement }: RuleLine): string => engagement?.name ?? template?.name ?? 'Agency';

function Editing({ rule, list, choices, onClose, onSaved }: Omit<RuleSheetProps, 'choices'> & { readonly choices: RuleChoices }) {
  const [draft, setDraft] = useState<Draft>(() => (rule === null ? newDraft() : draftOf(rule)));
  const [trouble, setTrouble] = useState<string | null>(null);
  const isChanged = rule === null || JSON.stringify(draft.content) !== JSON.stringify(rule.content);
  const missing = missingIn(draft) ?? (isPlaced(draft) ? null : 'Choose where the rule applies.');
  const save = async (): Promise<void> => {
    if (missing !== null) return setTrouble(missing);
    setTrouble(null);
    await saveRule(draft, rule).then(onSaved, (error: unknown) => setTrouble(troubleWords(error)));
  };
  return (
    <>
      <SentenceEditor draft={draft} isNew={rule === null} choices={choices} onChange={setDraft} />
      {rule === null ? <PlaceChoice draft={draft} choices={choices} onChange={setDraft} /> : null}
      <RuleTrialView draft={draft} ruleId={rule?.id ?? null} />
      {rule === null ? null : <RuleMore rule={rule} list={list} choices={choices} onClose={onClose} onSaved={onSaved} />}
      <Foot>
        <Trouble words={trouble} />
        <Button kind="primary" isDisabled={!isChanged} onPress={() => void save()}>
          {rule === null ? 'Add rule' : 'Save rule'}
        </Button>
        <Button onPress={isChanged && rule !== null ? () => setDraft(draftOf(rule)) : onClose}>Cancel</Button>
        <Push />
        <Muted>{missing ?? (isChanged ? 'Not saved yet' : 'Saved')}</Muted>
      </Foot>
    </>
  );
}

const isPlaced = ({ level, templateId, engagementId }: Draft): boolean =>
  level === 'agency' || (level === 'template' ? templateId : engagementId) !== undefined;

interface PlaceProps {
  readonly draft: Draft;
  readonly choices: RuleChoices;
  readonly onChange: (draft: Draft) => void;
}

/** Where a new rule holds. */
function PlaceChoice({ draft, choices, onChange }: PlaceProps) {
  const places = [
    { id: 'agency', name: 'Every engagement' },
    ...choices.templates.map(({ id, name }) => ({ id: `template ${id}`, name: `Template: ${name}` })),
    ...choices.engagements.map(({ id, name, client }) => ({ id: `engagement ${id}`, name, detail: client })),
  ];
  const choose = (place: string): void => {
    const [level, id] = place.split(' ') as [Draft['level'], string | undefined];
    const { content } = draft;
    onChange({
      level,
      content,
      ...(level === 'template' ? { templateId: id } : level === 'engagement' ? { engagementId: id } : {}),
    } as Draft);
  };
  const value = draft.level === 'agency' ? 'agency' : `${draft.level} ${draft.templateId ?? draft.engagementId ?? ''}`;
  return (
    <SheetPart>
      <Choose label="Applies to" isTight choices={places} value={value} onChange={choose} />
    </SheetPart>
  );
}

interface MoreProps {
  readonly rule: RuleLine;
  readonly list: RuleList;
  readonly choices: RuleChoices;
  readonly onClose: () => void;
  readonly onSaved: (id: string) => void;
}

/** What else can be done with a rule that is kept. */
function RuleMore({ rule, list, choices, onClose, onSaved }: MoreProps) {
  const remove = async (): Promise<void> => {
    const { isDone } = await removeRule(rule);
    if (isDone) onClose();
  };
  return (
    <SheetPart>
      <RuleExceptions rule={rule} choices={choices} onChanged={onSaved} />
      <Inline>
        <ButtonLink kind="quiet" isFlush href={`/handoffs/rules/runs?rule=${rule.id}`}>
          Runs of this rule
        </ButtonLink>
        <Push />
        <Button onPress={() => void switchRule(rule, !rule.isOn)}>{rule.isOn ? 'Switch off' : 'Switch on'}</Button>
        <Button kind="danger" onPress={() => void remove()}>
          Remove
        </Button>
      </Inline>
      <RuleOrder rule={rule} list={list} />
      <FoldedHistory subject="rule" id={rule.id} />
      {rule.replacesId === null ? null : <Note $isSmall>Replaces another rule where it applies.</Note>}
    </SheetPart>
  );
}

/** Rules of one place run in their order: where two set the same thing, the later one decides. */
function RuleOrder({ rule, list }: Pick<MoreProps, 'rule' | 'list'>) {
  const alike = list.rules.filter((one) => one.level === rule.level && placeOf(one) === placeOf(rule));
  const at = alike.findIndex(({ id }) => id === rule.id);
  if (alike.length < 2) return null;
  const idAt = (index: number): string | null => alike[index]?.id ?? null;
  const back = idAt(at + 1);
  return (
    <Inline>
      <Muted>
        {at + 1} of {alike.length} in this order
      </Muted>
      <Push />
      <Button kind="quiet" isDisabled={at === 0} onPress={() => void placeRule(rule, idAt(at - 1), back)}>
        Move up
      </Button>
      <Button kind="quiet" isDisabled={at === alike.length - 1} onPress={() => void placeRule(rule, idAt(at + 2), back)}>
        Move down
      </Button>
    </Inline>
  );
}
