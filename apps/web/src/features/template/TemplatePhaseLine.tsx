import type { TemplatePhaseView } from '@crew/contract';
import type { TemplatePhase } from '@crew/core';
import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { Muted } from '../../ui/layout.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { count, spanWords } from '../../words/format.ts';
import { editPhase } from './content.ts';
import { Grid, PlaceBar, type LineProps } from './outline-parts.tsx';

const PhaseRow = styled(Grid)<{ $isOpen: boolean }>`
  min-height: 36px;
  background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'var(--sunk)')};
  border-top: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
  h2 {
    display: flex;
    align-items: baseline;
    font-size: 14.5px;
  }
  small {
    font:
      400 12px 'Hanken Grotesk Variable',
      sans-serif;
    color: var(--ink-2);
    margin-left: 7px;
  }
`;
/** A phase with its owning role, state line and gate, beside its place in the dry run. */
export function PhaseLine({
  phase,
  dates,
  scale,
  today,
  editor,
  isOpen,
  onOpen,
}: LineProps & { readonly phase: TemplatePhase | TemplatePhaseView; readonly dates: TemplatePhaseView | undefined }) {
  return (
    <PhaseRow $isOpen={isOpen}>
      <h2 title={phase.stateLine}>
        {editor === null ? (
          phase.name
        ) : (
          <TextCell
            label={`Name of the phase ${phase.name}`}
            value={phase.name}
            onSave={(name) => (name.trim() === '' ? false : editor.edit(editPhase(phase.id, { name: name.trim() })))}
            isFitted
          />
        )}
        {dates === undefined ? null : <small>{count(dates.workingDays, 'working day')}</small>}
      </h2>
      <span className="wide">{dates?.role}</span>
      <span>{phase.rounds === null ? '' : count(phase.rounds, 'round')}</span>
      {editor === null ? (
        <Muted className="wide">{gateWords(phase)}</Muted>
      ) : (
        <span className="wide">
          <Button kind="text" aria-label={`${phase.name}: state line, gate and more`} onPress={() => onOpen(phase.id)}>
            {gateWords(phase)}
          </Button>
        </span>
      )}
      {dates === undefined ? null : (
        <PlaceBar
          scale={scale}
          start={dates.start}
          finish={dates.finish}
          tone="phase"
          title={`${phase.name}, ${spanWords(dates.start, dates.finish, today)}`}
        />
      )}
    </PhaseRow>
  );
}

const gateWords = (phase: { readonly checks: readonly unknown[] }): string =>
  phase.checks.length === 0 ? 'no gate' : `gate: ${count(phase.checks.length, 'check')}`;
