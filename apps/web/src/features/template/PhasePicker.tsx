import type { TemplateContent, TemplatePhase } from '@crew/core';
import { useState } from 'react';
import styled from 'styled-components';
import { useTemplateContent, useTemplates } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, type Choice } from '../../ui/Field.tsx';
import { Loading } from '../../ui/layout.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count } from '../../words/format.ts';

const Hint = styled.p`
  margin-top: 8px;
`;

const PhaseList = styled.ul`
  margin: 8px 0;
  max-height: 260px;
  overflow: auto;
`;

interface PickerProps {
  /** The template they are put into: nothing is taken from itself. */
  readonly exceptId: string;
  /** Phases that are there already. */
  readonly without: readonly string[];
  /** The row they go into, to choose a place in it; left out, they go to its end. */
  readonly row?: readonly Choice[];
  /** `behindId`: the phase they come behind, null for the beginning, undefined for the end. */
  readonly onPick: (
    source: { readonly id: string; readonly content: TemplateContent },
    phaseIds: readonly string[],
    behindId: string | null | undefined,
  ) => void;
}

const AT_END = 'end';
const AT_BEGINNING = 'beginning';

/** Templates that phases can be taken from; undefined until they are known. */
export function usePhaseSources(exceptId: string | null = null): readonly Choice[] | undefined {
  const { data: templates } = useTemplates();
  return templates
    ?.filter((template) => template.id !== exceptId && !template.isArchived && template.kind !== 'task')
    .map(({ id, name, phases, taskCount }) => ({ id, name, detail: `${count(phases.length, 'phase')}, ${count(taskCount, 'task')}` }));
}

/** Phases of another template, to be put among those there are. */
export function PhasePicker(props: PickerProps) {
  const [sourceId, setSource] = useState<string | null>(null);
  const sources = usePhaseSources(props.exceptId);
  return (
    <>
      <Choose label="From" isTight choices={sources} value={sourceId} onChange={setSource} />
      {sourceId === null ? null : <Phases key={sourceId} sourceId={sourceId} {...props} />}
    </>
  );
}

function Phases({ sourceId, without, row, onPick }: PickerProps & { readonly sourceId: string }) {
  const { data: source } = useTemplateContent(sourceId);
  const [chosen, setChosen] = useState<readonly string[] | null>(null);
  const [place, setPlace] = useState(AT_END);
  if (source === undefined) return <Loading rows={2} />;
  const phases = source.content.phases.filter((phase) => !without.includes(phase.id));
  if (phases.length === 0) return <Hint>All its phases are already here.</Hint>;
  const ids = chosen ?? (phases.length === 1 ? phases.map((phase) => phase.id) : []);
  return (
    <>
      <PhaseTicks phases={phases} chosen={ids} onChange={setChosen} />
      {row === undefined ? null : (
        <Choose
          label="Where"
          isTight
          choices={[
            { id: AT_END, name: 'At the end' },
            { id: AT_BEGINNING, name: 'At the beginning' },
            ...row.slice(0, -1).map(({ id, name }) => ({ id, name: `After ${name}` })),
          ]}
          value={place}
          onChange={setPlace}
        />
      )}
      <Button
        kind="primary"
        isDisabled={ids.length === 0}
        onPress={() => onPick(source, ids, place === AT_END ? undefined : place === AT_BEGINNING ? null : place)}
      >
        {row === undefined ? `Add ${count(ids.length, 'phase')} at the end` : `Add ${count(ids.length, 'phase')} here`}
      </Button>
    </>
  );
}

interface TicksProps {
  readonly phases: readonly TemplatePhase[];
  readonly chosen: readonly string[];
  readonly onChange: (ids: readonly string[]) => void;
}

/** Which phases are taken. */
export function PhaseTicks({ phases, chosen, onChange }: TicksProps) {
  return (
    <PhaseList>
      {phases.map(({ id, name }) => (
        <li key={id}>
          <Tick
            isSelected={chosen.includes(id)}
            onChange={() => onChange(chosen.includes(id) ? chosen.filter((other) => other !== id) : [...chosen, id])}
          >
            {name}
          </Tick>
        </li>
      ))}
    </PhaseList>
  );
}
