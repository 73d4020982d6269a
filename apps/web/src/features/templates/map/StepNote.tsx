import type { TemplateTask } from '@crew/core';
import { useState, type ReactNode } from 'react';
import styled from 'styled-components';
import { useCrew } from '../../../api/queries.ts';
import { Button } from '../../../ui/Button.tsx';
import { Panel } from '../../../ui/layout.tsx';
import { phone } from '../../../ui/tokens.ts';
import { count, hours } from '../../../words/format.ts';
import { editPhase, editWay } from '../content.ts';
import { TextCell } from '../../../ui/TextCell.tsx';
import { NextForm } from '../StepList.tsx';
import type { TemplateEditor } from '../use-template-editor.ts';

const Note = styled(Panel)`
  display: grid;
  grid-template-columns: 1.15fr 1fr 1fr 0.8fr;
  gap: 8px 22px;
  padding: 11px 14px 13px;
  margin-top: 12px;
  min-height: 92px;
  > form {
    grid-column: 1 / -1;
  }
  ${phone} {
    grid-template-columns: 1fr;
  }
`;
const Label = styled.small`
  display: block;
  font-size: 12px;
  color: var(--ink-2);
`;

interface NoteProps {
  readonly editor: TemplateEditor;
  readonly step: TemplateTask | null;
  readonly isReadOnly: boolean;
  readonly onOpen: (id: string) => void;
}

/** What the chosen box stands for: what happens next, what its phase says on every list, its gate, and the work behind it. */
export function StepNote({ editor, step, isReadOnly, onOpen }: NoteProps) {
  const [isAsking, setAsking] = useState(false);
  if (step === null) {
    return (
      <Note>
        <p style={{ gridColumn: '1 / -1', color: 'var(--ink-2)' }}>
          Choose a box to see what happens next.{' '}
          {isReadOnly
            ? ''
            : 'Drag from the edge of one box to another to tie them; drag a box to another lane or phase to move it there. “Steps as a list” does all of this without drawing.'}
        </p>
      </Note>
    );
  }
  const { content, edit } = editor;
  const phase = content.phases.find((candidate) => candidate.id === step.phaseId);
  const next = content.tasks.filter((task) => task.parentId === null && task.after.some((tie) => tie.taskId === step.id));
  const ways = content.ways.filter((way) => way.fromId === step.id);
  return (
    <Note>
      <div>
        <Label>step</Label>
        <Button
          kind="quiet"
          style={{ padding: 0, color: 'var(--ink)', fontSize: 14, whiteSpace: 'normal', textAlign: 'left' }}
          onPress={() => onOpen(step.id)}
        >
          {step.title}
        </Button>
        <div style={{ color: 'var(--ink-2)' }}>
          And what happens next?{' '}
          {next.map((task, place) => (
            <span key={task.id}>
              {place === 0 ? '→ ' : ', '}
              <Button kind="quiet" style={{ padding: 0, minHeight: 0 }} onPress={() => onOpen(task.id)}>
                {task.title}
              </Button>
            </span>
          ))}
          {isReadOnly ? null : (
            <Button kind="quiet" style={{ padding: '0 6px', minHeight: 0 }} onPress={() => setAsking(!isAsking)}>
              {next.length === 0 ? 'say it' : 'add a way out'}
            </Button>
          )}
        </div>
        {ways.map((way) => (
          <div
            key={way.id}
            style={{ display: 'flex', alignItems: 'baseline', gap: 6, color: way.toId === null ? 'var(--ink-2)' : 'var(--amber)' }}
          >
            when
            {isReadOnly ? (
              <strong>{way.reason}</strong>
            ) : (
              <TextCell
                label={`When the way out of ${step.title} is taken`}
                value={way.reason}
                onSave={(reason) => (reason.trim() === '' ? false : edit(editWay(way.id, { reason: reason.trim() })))}
                style={{ width: `${Math.max(8, way.reason.length + 2)}ch`, margin: 0 }}
              />
            )}
            → {way.toId === null ? way.ending : content.tasks.find((task) => task.id === way.toId)?.title}
          </div>
        ))}
      </div>
      <div>
        <Label>phase {phase?.name} reads, on every list</Label>
        {phase === undefined ? null : isReadOnly ? (
          <strong>“{phase.stateLine}”</strong>
        ) : (
          <TextCell
            label={`State line of ${phase.name}`}
            value={phase.stateLine}
            onSave={(stateLine) => edit(editPhase(phase.id, { stateLine }))}
            style={{ fontWeight: 650, fontSize: 14 }}
          />
        )}
      </div>
      <div>
        <Label>may be handed on when</Label>
        {phase === undefined || phase.checks.length === 0 ? 'at any time' : phase.checks.map((check) => check.text).join(' · ')}{' '}
        {isReadOnly || phase === undefined ? null : (
          <Button kind="quiet" style={{ padding: 0, minHeight: 0 }} onPress={() => onOpen(phase.id)}>
            change
          </Button>
        )}
      </div>
      <Behind step={step} editor={editor} />
      {isAsking && !isReadOnly ? <NextForm task={step} editor={editor} onClose={() => setAsking(false)} /> : null}
    </Note>
  );
}

/** The work a box stands for. */
function Behind({ step, editor }: { readonly step: TemplateTask; readonly editor: TemplateEditor }): ReactNode {
  const roles = useCrew().data?.roles ?? [];
  const parts = editor.content.tasks.filter((task) => task.parentId === step.id);
  const minutes = parts.length === 0 ? (step.estimateMinutes ?? 0) : parts.reduce((sum, part) => sum + (part.estimateMinutes ?? 0), 0);
  const who = step.kind === 'client' ? 'the client' : (roles.find((role) => role.id === step.roleId)?.name ?? 'nobody yet');
  return (
    <div>
      <Label>work behind this step</Label>
      {parts.length === 0 ? '1 task' : count(parts.length, 'task')}
      {minutes === 0 ? '' : ` · ${hours(minutes)} h`} · {who}
    </div>
  );
}
