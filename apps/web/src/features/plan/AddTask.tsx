import type { PlanPhase } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call, type ApiError } from '../../api/client.ts';
import { refreshAll } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { notify } from '../../ui/toasts.tsx';

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
  const add = async (): Promise<void> => {
    try {
      await call('POST', `/engagements/${engagementId}/tasks`, { phaseId: phase.id, title });
      await refreshAll();
      notify(`“${title}” added to ${phase.name}.`);
      onClose();
    } catch (error) {
      setTrouble((error as ApiError).message);
    }
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
      </div>
      <Button kind="primary" type="submit">
        Add
      </Button>
      <Button kind="quiet" onPress={onClose}>
        Not now
      </Button>
    </AddBar>
  );
}
