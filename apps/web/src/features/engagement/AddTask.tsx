import { performOrThrow } from '../../session/perform.ts';
import { AddTask as AddTaskInput, type PlanEffect, type PlanPhase } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import useSWR from 'swr';
import { call, type ApiError } from '../../api/client.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { FormButton } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Trouble } from '../../ui/text.tsx';
import { additionOf, movesAnything, tasksOf } from '../task/add-task.ts';
import { EffectWords } from '../task/EffectWords.tsx';
import { KeptChoice, useKeptTasks } from '../template/KeptPicker.tsx';
import { applyAt, ApplyPart } from './ApplyPart.tsx';

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

/** It is outside the list, because a list takes typed letters as a search among its rows. */
export function AddTask({
  engagementId,
  phase,
  onClose,
}: {
  readonly engagementId: string;
  readonly phase: PlanPhase;
  readonly onClose: () => void;
}) {
  const { today } = useWho();
  const form = useInputForm({
    rules: AddTaskInput,
    typed: { title: '' },
    input: ({ title }) => ({ phaseId: phase.id, title }),
    send: async (input) => {
      await performOrThrow(additionOf(engagementId, input, today));
      onClose();
    },
  });
  const { title } = form.values;
  const isNamed = title.trim() !== '';
  const { data: effect } = useSWR<PlanEffect, ApiError>(isNamed ? [tasksOf(engagementId), 'preview', phase.id] : null, () =>
    call<PlanEffect>('POST', `${tasksOf(engagementId)}/preview`, { phaseId: phase.id, title }),
  );
  return (
    <AddBar aria-label={`New task in ${phase.name}`} onSubmit={form.submit} noValidate>
      <div>
        <Field {...form.bind('title')} label={`New task in ${phase.name}`} autoFocus />
        <Trouble words={form.trouble} />
        {isNamed && effect !== undefined && movesAnything(effect) ? <EffectWords effect={effect} today={today} /> : null}
      </div>
      <Button kind="primary" type="submit">
        Add
      </Button>
      <FormButton button={<Button kind="quiet">Add from library…</Button>} label={`Add from library to ${phase.name}`} width={320}>
        {() => <AddKept engagementId={engagementId} phase={phase} onApplied={onClose} />}
      </FormButton>
      <Button kind="quiet" onPress={onClose}>
        Cancel
      </Button>
    </AddBar>
  );
}

/** A saved task with everything it presets, after a preview of what it would move. */
function AddKept({
  engagementId,
  phase,
  onApplied,
}: {
  readonly engagementId: string;
  readonly phase: PlanPhase;
  readonly onApplied: () => void;
}) {
  const [templateId, setTemplate] = useState<string | null>(null);
  const path = `/engagements/${engagementId}/from-library`;
  const body = { templateId, phaseId: phase.id };
  const name = useKeptTasks()?.find((kept) => kept.id === templateId)?.name ?? '';
  return (
    <>
      <KeptChoice value={templateId} onChange={setTemplate} />
      {templateId === null ? null : (
        <ApplyPart
          ask={{ path: `${path}/preview`, body }}
          apply={() => applyAt(path, body)}
          action="Add here"
          said={`“${name}” added to ${phase.name}.`}
          onApplied={onApplied}
        />
      )}
    </>
  );
}
