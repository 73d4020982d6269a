import { perform } from '../../session/perform.ts';
import type { PlanEffect, PlanPhase } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { FormButton } from '../../ui/SmallForm.tsx';
import { additionOf, movesAnything, tasksOf } from '../task/add-task.ts';
import { EffectWords } from '../task/EffectWords.tsx';
import { KeptChoice, useKeptTasks } from '../template/KeptPicker.tsx';
import { takeAt, TakePart } from './TakePart.tsx';

const AddBar = styled.form`
  position: sticky;
  top: 54px;
  z-index: 5;
  display: flex;
  align-items: start;
  gap: 8px;
  margin-bottom: 6px;
  padding: 10px 12px 0;
  background: var(--panel);
  border: 1px solid var(--petrol);
  border-radius: 7px;
  > div {
    flex: 0 1 440px;
  }
  > button {
    margin-top: 20px;
  }
`;

/** Stands outside the list: a list takes typed letters as a search among its rows. */
export function AddTask({
  engagementId,
  phase,
  onClose,
}: {
  readonly engagementId: string;
  readonly phase: PlanPhase;
  readonly onClose: () => void;
}) {
  const [title, setTitle] = useState('');
  const [trouble, setTrouble] = useState<string>();
  const { today } = useWho();
  const isNamed = title.trim() !== '';
  const { data: effect } = useSWR<PlanEffect, ApiError>(isNamed ? [tasksOf(engagementId), 'preview', phase.id] : null, () =>
    call<PlanEffect>('POST', `${tasksOf(engagementId)}/preview`, { phaseId: phase.id, title }),
  );
  const add = async (): Promise<void> => {
    const { isDone } = await perform({ ...additionOf(engagementId, { phaseId: phase.id, title }, today), onTrouble: setTrouble });
    if (isDone) onClose();
  };
  return (
    <AddBar
      aria-label={`New task in ${phase.name}`}
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <div>
        <Field label={`New task in ${phase.name}`} value={title} onChange={setTitle} error={trouble} autoFocus />
        {isNamed && effect !== undefined && movesAnything(effect) ? <EffectWords effect={effect} today={today} /> : null}
      </div>
      <Button kind="primary" type="submit">
        Add
      </Button>
      <FormButton button={<Button kind="quiet">One kept in the library…</Button>} label={`A kept task into ${phase.name}`} width={320}>
        {() => <TakeKept engagementId={engagementId} phase={phase} onTaken={onClose} />}
      </FormButton>
      <Button kind="quiet" onPress={onClose}>
        Not now
      </Button>
    </AddBar>
  );
}

/** A kept task with all it presets, once it is seen what it would move. */
function TakeKept({
  engagementId,
  phase,
  onTaken,
}: {
  readonly engagementId: string;
  readonly phase: PlanPhase;
  readonly onTaken: () => void;
}) {
  const [templateId, setTemplate] = useState<string | null>(null);
  const path = `/engagements/${engagementId}/from-library`;
  const body = { templateId, phaseId: phase.id };
  const name = useKeptTasks()?.find((kept) => kept.id === templateId)?.name ?? '';
  return (
    <>
      <KeptChoice value={templateId} onChange={setTemplate} />
      {templateId === null ? null : (
        <TakePart
          ask={{ path: `${path}/preview`, body }}
          take={() => takeAt(path, body)}
          action="Put it there"
          said={`“${name}” added to ${phase.name}.`}
          onTaken={onTaken}
        />
      )}
    </>
  );
}
