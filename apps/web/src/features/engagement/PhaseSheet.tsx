import type { TemplateCheck } from '@crew/core';
import type { CheckKind, EditedCheck, EditPhase, PhaseView, PlanChanged } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useCrew, usePhase } from '../../api/queries.ts';
import { perform } from '../../session/perform.ts';
import { Choose } from '../../ui/Field.tsx';
import { ErrorNote, Loading, Muted } from '../../ui/layout.tsx';
import { Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { Trouble } from '../../ui/text.tsx';
import { RoleHolders } from './RoleHolders.tsx';
import { GateEditor } from '../gate/GateEditor.tsx';
import { FoldedHistory } from '../history/FoldedHistory.tsx';

const NOBODY = 'none';

const Label = styled.small`
  display: block;
  color: var(--ink-2);
  font-size: 12px;
  font-weight: 600;
`;

interface PhaseSheetProps {
  readonly phaseId: string;
  readonly engagementId: string;
  readonly line: string;
  readonly onClose: () => void;
}

/** A phase of an engagement that runs: its name, where the client stands in it, who owns it, and what its gate asks for. */
export function PhaseSheet({ phaseId, engagementId, line, onClose }: PhaseSheetProps) {
  const { data, error } = usePhase(phaseId);
  return (
    <Sheet label="Phase" line={line} onClose={onClose}>
      {data === undefined ? (
        error === undefined ? (
          <Loading rows={6} />
        ) : (
          <ErrorNote error={error} />
        )
      ) : (
        <Body key={data.id} phase={data} engagementId={engagementId} />
      )}
    </Sheet>
  );
}

type Change = Omit<EditPhase, 'seen'>;

/** One that was there before goes with its id. */
const asInput = ({ kind, wants = [], ...check }: TemplateCheck): EditedCheck => ({ ...check, kind: kind as CheckKind, wants: [...wants] });

function Body({ phase, engagementId }: { readonly phase: PhaseView; readonly engagementId: string }) {
  const roles = useCrew().data?.roles;
  const [trouble, setTrouble] = useState<string>();
  const { id, name, stateLine, roleId, checks, titles } = phase;
  /** Saved at once, with the way back in the message. */
  const save = (change: Change, said: string): void => {
    setTrouble(undefined);
    void perform({
      send: () => call<PlanChanged>('PATCH', `/phases/${id}`, { seen: { name, stateLine, roleId }, ...change }),
      said,
      undo: ({ changeId }) => changeId,
      onTrouble: setTrouble,
    });
  };
  const saveText = (field: 'name' | 'stateLine', said: string) => (text: string) => {
    if (text.trim() === '') return false;
    if (text.trim() !== phase[field]) save({ [field]: text.trim() }, said);
    return true;
  };
  return (
    <>
      <TextCell label="Name of the phase" value={name} onSave={saveText('name', 'Phase renamed.')} isTitle />
      <SheetPart>
        <Label>State line: where the client stands while it runs</Label>
        <TextCell label="State line" value={stateLine} onSave={saveText('stateLine', 'State line changed.')} />
        <Choose
          label="Owning role"
          isTight
          choices={roles && [{ id: NOBODY, name: 'no role' }, ...roles]}
          value={roleId ?? NOBODY}
          onChange={(next) => save({ roleId: next === NOBODY ? null : next }, 'Phase owner changed.')}
        />
        <Trouble words={trouble} />
      </SheetPart>
      {roleId === null ? null : <RoleHolders engagementId={engagementId} roleId={roleId} />}
      <SheetPart>
        <h3>Gate: can be handed off when</h3>
        {phase.state === 'over' ? <Muted>This phase is over; its gate counts again if it is sent back.</Muted> : null}
        <GateEditor checks={checks} titles={titles} onChange={(next) => save({ checks: next.map(asInput) }, 'Gate changed.')} />
      </SheetPart>
      <FoldedHistory subject="phase" id={id} />
    </>
  );
}
