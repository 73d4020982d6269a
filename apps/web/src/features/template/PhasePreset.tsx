import type { TemplatePhase } from '@crew/core';
import { useState } from 'react';
import styled from 'styled-components';
import { useCrew } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { Explain } from '../explain/Explain.tsx';
import { GateEditor } from '../gate/GateEditor.tsx';
import { editPhase, movePhase, removePhase } from './content.ts';
import type { TemplateEditor } from './use-template-editor.ts';

const ButtonPart = styled(SheetPart)`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
`;

const PhaseWords = styled.div`
  margin-top: 10px;
`;

const RuleLine = styled.div`
  display: grid;
  grid-template-columns: 1.6fr 1fr;
  gap: 8px;
`;

const NONE = 'none';

interface PhasePresetProps {
  readonly editor: TemplateEditor;
  readonly phase: TemplatePhase;
  readonly onClose: () => void;
}

/** A phase: where the client stands while it runs, who owns it, what it follows, and when it may be handed on. */
export function PhasePreset({ editor, phase, onClose }: PhasePresetProps) {
  const { content, edit } = editor;
  const set = (change: Partial<TemplatePhase>): void => edit(editPhase(phase.id, change));
  const titles = content.tasks.filter((task) => task.phaseId === phase.id).map(({ title }) => title);
  const others = content.phases.filter((other) => other.id !== phase.id);
  return (
    <Sheet label="Phase of the template" line="Phase" onClose={onClose}>
      <TextCell
        label="Name of the phase"
        value={phase.name}
        onSave={(name) => (name.trim() === '' ? false : set({ name: name.trim() }))}
        isTitle
      />
      <PhaseFields editor={editor} phase={phase} set={set} />
      <Gate phase={phase} titles={titles} set={set} />
      <ButtonPart>
        <Button onPress={() => edit(movePhase(phase.id, -1))}>Earlier</Button>
        <Button onPress={() => edit(movePhase(phase.id, 1))}>Later</Button>
        <Button
          kind="danger"
          isDisabled={others.length === 0}
          onPress={() => {
            edit(removePhase(phase.id));
            onClose();
          }}
        >
          Remove with its tasks
        </Button>
      </ButtonPart>
    </Sheet>
  );
}

/** Where the client stands while it runs, who owns it, what it follows, how often it may be gone through. */
function PhaseFields({ editor, phase, set }: Pick<PhasePresetProps, 'editor' | 'phase'> & { readonly set: Set }) {
  const { content, saving } = editor;
  const roles = useCrew().data?.roles;
  const others = content.phases.filter((other) => other.id !== phase.id);
  const fault = saving.kind === 'faulty' ? saving.faults.find((one) => one.at === `phases[${phase.id}].stateLine`) : undefined;
  const hasLoop = content.ways.some(
    (way) => way.toId !== null && content.tasks.find((task) => task.id === way.fromId)?.phaseId === phase.id,
  );
  return (
    <PhaseWords>
      <Field
        label="State line while this phase runs"
        value={phase.stateLine}
        onChange={(stateLine) => set({ stateLine })}
        error={fault?.message}
        placeholder="e.g. Proposal sent, waiting for an answer"
      />
      <Choose
        label="Owned by"
        choices={roles && [{ id: NONE, name: 'No role' }, ...roles]}
        value={phase.roleId ?? NONE}
        onChange={(id) => set({ roleId: id === NONE ? null : id })}
      />
      <Choose
        label="Follows"
        choices={[{ id: NONE, name: 'Starts with the engagement' }, ...others]}
        value={phase.afterPhaseId ?? NONE}
        onChange={(id) => set({ afterPhaseId: id === NONE ? null : id })}
      />
      {phase.afterPhaseId === null ? null : (
        <RuleLine>
          <Choose
            label="Counted from its"
            choices={[
              { id: 'finish', name: 'end' },
              { id: 'start', name: 'beginning' },
            ]}
            value={phase.afterEdge}
            onChange={(id) => set({ afterEdge: id === 'start' ? 'start' : 'finish' })}
          />
          <Days label="Days between" value={phase.afterLag} onChange={(afterLag) => set({ afterLag })} />
        </RuleLine>
      )}
      <Rounds phase={phase} isNeeded={hasLoop} set={set} />
    </PhaseWords>
  );
}

interface DaysProps {
  readonly label: string;
  readonly value: number;
  readonly onChange: (days: number) => void;
}

function Days({ label, value, onChange }: DaysProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const isWrong = typed !== null && !/^-?\d{1,3}$/.test(typed.trim());
  return (
    <Field
      label={label}
      value={typed ?? String(value)}
      onChange={(text) => {
        setTyped(text);
        if (/^-?\d{1,3}$/.test(text.trim())) onChange(Number(text));
      }}
      onBlur={() => (isWrong ? undefined : setTyped(null))}
      error={isWrong ? 'Write a whole number of days.' : undefined}
    />
  );
}

type Set = (change: Partial<TemplatePhase>) => void;

/** A field with one of our own words explained at its end. */
const WithWord = styled.div`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  gap: 4px;
`;

/** How often what repeats in the phase may be gone through, as agreed. */
export function Rounds({ phase, isNeeded, set }: { readonly phase: TemplatePhase; readonly isNeeded: boolean; readonly set: Set }) {
  const choices = [1, 2, 3, 4, 5].map((rounds) => ({ id: String(rounds), name: rounds === 1 ? '1 round' : `${rounds} rounds` }));
  return (
    <WithWord>
      <Choose
        label="Rounds agreed with the client"
        choices={isNeeded ? choices : [{ id: NONE, name: 'No rounds' }, ...choices]}
        value={phase.rounds === null ? NONE : String(phase.rounds)}
        onChange={(id) => set({ rounds: id === NONE ? null : Number(id) })}
      />
      <Explain word="round" />
    </WithWord>
  );
}

/** When the phase may be handed on, as sentences. */
function Gate({ phase, titles, set }: { readonly phase: TemplatePhase; readonly titles: readonly string[]; readonly set: Set }) {
  return (
    <SheetPart>
      <h3>Gate: can be handed off when</h3>
      <GateEditor checks={phase.checks} titles={titles} onChange={(checks) => set({ checks })} />
    </SheetPart>
  );
}
