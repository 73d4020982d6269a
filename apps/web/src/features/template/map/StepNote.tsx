import { Toned, Quiet } from '../../../ui/text.tsx';
import type { TemplateContent, TemplateTask, TemplateWay } from '@crew/core';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { Button } from '../../../ui/Button.tsx';
import { Panel } from '../../../ui/layout.tsx';
import { TextCell } from '../../../ui/TextCell.tsx';
import { phone } from '../../../ui/tokens.ts';
import { count, hours } from '../../../words/format.ts';
import { editPhase, editTask, editWay, laneOf, moveStep, NOBODY_LANE } from '../content.ts';
import { NewStep, NextForm, useLaneChoices, Where } from '../NextForm.tsx';
import type { TemplateEditor } from '../use-template-editor.ts';
import { removeArrow, type MapArrow } from './layout.ts';

const Hint = styled.p`
  color: var(--ink-2);
  max-width: 110ch;
`;

const MoreButton = styled(Button)`
  margin-top: 8px;
`;

const Title = styled.strong`
  font-size: 14px;
`;

const TitleCell = styled(TextCell)`
  font-weight: 650;
  font-size: 14px;
`;

const Fault = styled.p`
  color: var(--brick);
  font-size: 12px;
`;

const Note = styled(Panel)`
  display: grid;
  grid-template-columns: 1.3fr 1.2fr 1fr 0.8fr;
  gap: 8px 22px;
  padding: 11px 14px 13px;
  margin-top: 12px;
  min-height: 132px;
  align-content: start;
  > [data-whole] {
    grid-column: 1 / -1;
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Label = styled.small`
  display: block;
  font-size: 12px;
  color: var(--ink-2);
`;

const GateLabel = styled(Label)`
  margin-top: 6px;
`;
const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px;
`;

const LowRow = styled(Row)`
  margin-top: 8px;
`;

const ButtonRow = styled(Row)`
  margin-top: 6px;
`;
const Slots = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  margin-top: 6px;
`;

/** What is being added: what follows a step, or a step by itself in a lane and a phase. */
export type Asking =
  | { readonly kind: 'next'; readonly of: string }
  | { readonly kind: 'new'; readonly at: { readonly laneId: string; readonly phaseId: string } };

interface NoteProps {
  readonly editor: TemplateEditor;
  readonly isReadOnly: boolean;
  readonly step: TemplateTask | null;
  readonly arrow: MapArrow | null;
  readonly asking: Asking | null;
  readonly onAsk: (asking: Asking | null) => void;
  readonly onOpen: (id: string) => void;
  /** Opens all a step presets beside the map. */
  readonly onPresets: (id: string) => void;
  readonly onRemove: (id: string) => void;
}

/**
 * What is chosen on the map, and what comes next: the step with who does it and in which phase,
 * what its phase says on every list, its gate and the work behind it; or an arrow; or the
 * question with which a map begins.
 */
export function StepNote({ editor, isReadOnly, step, arrow, asking, onAsk, onOpen, onPresets, onRemove }: NoteProps) {
  const { content } = editor;
  const goOn = (id: string | null): void => {
    if (id !== null) onOpen(id);
    onAsk(id === null ? null : { kind: 'next', of: id });
  };
  const [first] = content.phases;
  if (!isReadOnly && first !== undefined && (asking?.kind === 'new' || content.tasks.length === 0)) {
    const at = asking?.kind === 'new' ? asking.at : { laneId: first.roleId ?? NOBODY_LANE, phaseId: first.id };
    return (
      <Note>
        <div data-whole>
          <NewStep
            key={`${at.laneId} ${at.phaseId}`}
            editor={editor}
            at={at}
            onAdded={goOn}
            onClose={content.tasks.length === 0 ? null : () => onAsk(null)}
          />
          <Label>Enter adds it and asks what happens next. A step waits for the one it follows.</Label>
        </div>
      </Note>
    );
  }
  if (arrow !== null) return <ArrowNote editor={editor} arrow={arrow} isReadOnly={isReadOnly} onOpen={onOpen} />;
  if (step === null) return <Beginning editor={editor} isReadOnly={isReadOnly} onAsk={onAsk} />;
  if (asking?.kind === 'next' && asking.of === step.id && !isReadOnly) {
    return (
      <Note>
        <div data-whole>
          <Label>
            <strong>{step.title}</strong>, and what happens next?
          </Label>
          <NextForm key={step.id} task={step} editor={editor} onAdded={goOn} onClose={() => onAsk(null)} />
          <Label>Enter adds it and goes on from there.</Label>
        </div>
      </Note>
    );
  }
  return (
    <Note>
      <Step step={step} editor={editor} isReadOnly={isReadOnly} />
      <Next step={step} editor={editor} isReadOnly={isReadOnly} onAsk={onAsk} onOpen={onOpen} />
      <Phase step={step} editor={editor} isReadOnly={isReadOnly} onOpen={onOpen} />
      <Behind step={step} content={content}>
        {isReadOnly ? null : (
          <ButtonRow>
            <Button onPress={() => onPresets(step.id)}>All presets</Button>
            <Button kind="danger" onPress={() => onRemove(step.id)}>
              Remove
            </Button>
          </ButtonRow>
        )}
      </Behind>
    </Note>
  );
}

interface PartProps {
  readonly editor: TemplateEditor;
  readonly step: TemplateTask;
  readonly isReadOnly: boolean;
}

/** Nothing is chosen: how the map is worked with, by hand and by keys. */
function Beginning({ editor, isReadOnly, onAsk }: Pick<NoteProps, 'editor' | 'isReadOnly' | 'onAsk'>) {
  const last = editor.content.phases.at(-1);
  return (
    <Note>
      <div data-whole>
        <Hint>
          Choose a box to see what happens next.
          {isReadOnly
            ? ' Arrow keys go from box to box.'
            : ' Double-click a free place for a new step; drag from the edge of one box to another to let it follow, and a box to another lane or phase to move it there. By keyboard: arrows move from box to box, n asks what happens next, Enter opens its fields, Alt with arrows moves it, Delete removes it. “Step list” does all of this without drawing.'}
        </Hint>
        {isReadOnly || last === undefined ? null : (
          <MoreButton onPress={() => onAsk({ kind: 'new', at: { laneId: last.roleId ?? NOBODY_LANE, phaseId: last.id } })}>
            Add a step
          </MoreButton>
        )}
      </div>
    </Note>
  );
}

/** The step itself: its title, who does it and where it stands. */
function Step({ editor, step, isReadOnly }: PartProps) {
  const { content, edit } = editor;
  const lanes = useLaneChoices();
  const [lane, phase] = [laneOf(step), content.phases.find((candidate) => candidate.id === step.phaseId)];
  if (isReadOnly) {
    return (
      <div>
        <Label>step</Label>
        <Title>{step.title}</Title>
        <Quiet as="div">
          {lanes?.find((choice) => choice.id === lane)?.name} · {phase?.name}
        </Quiet>
      </div>
    );
  }
  return (
    <div>
      <Label>step</Label>
      <TitleCell
        label="Title of the step"
        value={step.title}
        onSave={(title) => (title.trim() === '' ? false : edit(editTask(step.id, { title: title.trim() })))}
      />
      <Slots>
        <Where
          content={content}
          laneId={lane}
          phaseId={step.phaseId}
          onLane={(laneId) => edit(moveStep(step.id, { laneId, phaseId: step.phaseId }))}
          onPhase={(phaseId) => edit(moveStep(step.id, { laneId: lane, phaseId }))}
        />
      </Slots>
    </div>
  );
}

/** And what happens next: the steps that follow, and the ways out with their reasons. */
function Next({ editor, step, isReadOnly, onAsk, onOpen }: PartProps & Pick<NoteProps, 'onAsk' | 'onOpen'>) {
  const { content } = editor;
  const next = content.tasks.filter((task) => task.parentId === null && task.after.some((dependency) => dependency.taskId === step.id));
  return (
    <div>
      <Label>and what happens next?</Label>
      {next.map((task) => (
        <div key={task.id}>
          →{' '}
          <Button kind="text" onPress={() => onOpen(task.id)}>
            {task.title}
          </Button>
        </div>
      ))}
      {content.ways
        .filter((way) => way.fromId === step.id)
        .map((way) => (
          <WayLine key={way.id} editor={editor} way={way} step={step} isReadOnly={isReadOnly} />
        ))}
      {isReadOnly ? null : (
        <Button kind="text" onPress={() => onAsk({ kind: 'next', of: step.id })}>
          {next.length === 0 ? 'Say what happens next' : 'Something else as well'}
        </Button>
      )}
    </div>
  );
}

function WayLine({ editor, way, step, isReadOnly }: PartProps & { readonly way: TemplateWay }) {
  const { content, edit } = editor;
  return (
    <div style={{ display: 'flex', alignItems: 'baseline', gap: 6, color: way.toId === null ? 'var(--ink-2)' : 'var(--amber)' }}>
      when
      {isReadOnly ? (
        <strong>{way.reason}</strong>
      ) : (
        <TextCell
          label={`When ${step.title} ends this way`}
          value={way.reason}
          onSave={(reason) => (reason.trim() === '' ? false : edit(editWay(way.id, { reason: reason.trim() })))}
          isFitted
        />
      )}
      → {way.toId === null ? way.ending : `back to ${titleOf(content, way.toId)}`}
    </div>
  );
}

const titleOf = (content: TemplateContent, id: string): string => content.tasks.find((task) => task.id === id)?.title ?? '';

/** What every list says while its phase runs, and what the gate out of it asks for. */
function Phase({ editor, step, isReadOnly, onOpen }: PartProps & Pick<NoteProps, 'onOpen'>) {
  const { content, edit, saving } = editor;
  const phase = content.phases.find((candidate) => candidate.id === step.phaseId);
  if (phase === undefined) return <div />;
  const fault = saving.kind === 'faulty' ? saving.faults.find((one) => one.at === `phases[${phase.id}].stateLine`) : undefined;
  return (
    <div>
      <Label>while {phase.name} runs, the state line is</Label>
      {isReadOnly ? (
        <strong>“{phase.stateLine}”</strong>
      ) : (
        <TitleCell
          label={`State line of ${phase.name}`}
          value={phase.stateLine}
          onSave={(stateLine) => edit(editPhase(phase.id, { stateLine }))}
        />
      )}
      {fault === undefined ? null : <Fault>{fault.message}</Fault>}
      <GateLabel>can be handed off when</GateLabel>
      {phase.checks.length === 0 ? 'at any time' : phase.checks.map((check) => check.text).join(' · ')}{' '}
      {isReadOnly ? null : (
        <Button kind="text" onPress={() => onOpen(phase.id)}>
          change
        </Button>
      )}
    </div>
  );
}

/** The work a box stands for. */
function Behind({
  content,
  step,
  children,
}: {
  readonly content: TemplateContent;
  readonly step: TemplateTask;
  readonly children: ReactNode;
}) {
  const parts = content.tasks.filter((task) => task.parentId === step.id);
  const minutes = parts.length === 0 ? (step.estimateMinutes ?? 0) : parts.reduce((sum, part) => sum + (part.estimateMinutes ?? 0), 0);
  return (
    <div>
      <Label>work behind this step</Label>
      {parts.length === 0 ? '1 task' : count(parts.length, 'task')}
      {minutes === 0 ? ' · no effort of ours yet' : ` · ${hours(minutes)} h`}
      {children}
    </div>
  );
}

/** An arrow: what it means, its reason, and how to remove it. */
function ArrowNote({
  editor,
  arrow,
  isReadOnly,
  onOpen,
}: Pick<NoteProps, 'editor' | 'isReadOnly' | 'onOpen'> & { readonly arrow: MapArrow }) {
  const { content, edit } = editor;
  const way = content.ways.find((candidate) => candidate.id === arrow.id);
  const rounds = content.phases.find((phase) => phase.id === content.tasks.find((task) => task.id === arrow.from)?.phaseId)?.rounds;
  return (
    <Note>
      <div data-whole>
        <Label>{arrow.kind === 'next' ? 'what follows' : arrow.kind === 'back' ? 'a loop' : 'an ending'}</Label>
        <Row>
          <Button kind="text" onPress={() => onOpen(arrow.from)}>
            {titleOf(content, arrow.from)}
          </Button>
          →
          {way?.toId === null ? (
            <strong>{way.ending}</strong>
          ) : (
            <Button kind="text" onPress={() => onOpen(arrow.to)}>
              {titleOf(content, arrow.to)}
            </Button>
          )}
          {way === undefined || isReadOnly ? (
            way === undefined ? null : (
              <span>when {way.reason}</span>
            )
          ) : (
            <>
              when
              <TextCell
                label="When this happens"
                value={way.reason}
                onSave={(reason) => (reason.trim() === '' ? false : edit(editWay(way.id, { reason: reason.trim() })))}
                isFitted
              />
            </>
          )}
          {arrow.kind === 'back' && rounds !== null && rounds !== undefined ? (
            <Toned $tone="waiting">{count(rounds, 'round')} agreed</Toned>
          ) : null}
        </Row>
        {isReadOnly ? null : (
          <LowRow>
            <Button onPress={() => edit(removeArrow(arrow))}>Remove arrow</Button>
          </LowRow>
        )}
      </div>
    </Note>
  );
}
