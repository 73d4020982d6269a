import { can, type DryRun, type TemplateContentView } from '@crew/contract';
import { isDay, type TemplateContent, type IsoDay } from '@crew/core';
import { lazy, Suspense, useCallback, type CSSProperties } from 'react';
import { Dialog, DialogTrigger, Link } from 'react-aria-components';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { useDryRun, useTemplateContent } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { useOpenSheet, type OpenSheet } from '../../session/open-sheet.ts';
import { useShown } from '../../session/use-shown.ts';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { PopoverPanel } from '../../ui/Field.tsx';
import { ErrorNote, Loading, Muted, Page, PageHead, Panel, Push, WithSheet } from '../../ui/layout.tsx';
import { Tag } from '../../ui/marks.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { count, dayWords, hours, hourWords } from '../../words/format.ts';
import { TextCell } from '../../ui/TextCell.tsx';
import { LearnedSheet } from '../learn/LearnedSheet.tsx';
import { ComposeButton } from './ComposeButton.tsx';
import { KeepButton, SavingNote } from './SavingNote.tsx';
import { PhasePreset } from './PhasePreset.tsx';
import { StepList } from './StepList.tsx';
import { TaskPreset } from './TaskPreset.tsx';
import { TemplateOutline } from './TemplateOutline.tsx';
import { useTemplateEditor, type TemplateEditor } from './use-template-editor.ts';
import { VersionsSheet } from './VersionsSheet.tsx';

/** Loaded when it is looked at: drawing takes a library of its own. */
const ProcessMap = lazy(() => import('./map/ProcessMap.tsx').then((module) => ({ default: module.ProcessMap })));

const Run = styled(Panel)`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 22px;
  padding: 9px 14px;
  margin-bottom: 12px;
  strong {
    font-weight: 650;
  }
`;

const VIEWS = ['outline', 'map', 'list'] as const;
type View = (typeof VIEWS)[number];

/** One template: its outline, its map and its list of steps, with its dry run on the real calendar. */
export function TemplatePage() {
  const { id = '' } = useParams();
  const me = useWho();
  const { data: view, error } = useTemplateContent(id);
  if (error && view === undefined) return <Page>{<ErrorNote error={error} />}</Page>;
  if (view === undefined) return <Page>{<Loading rows={14} />}</Page>;
  return <TemplateBody key={view.id} view={view} isReadOnly={!can(me, 'template.edit')} />;
}

function TemplateBody({ view, isReadOnly }: { readonly view: TemplateContentView; readonly isReadOnly: boolean }) {
  const { today } = useWho();
  const editor = useTemplateEditor(view);
  const [search, show] = useShown();
  const [sheet, openSheet] = useOpenSheet(TEMPLATE_SHEETS);
  const isBack = search.has('promise');
  const asked = search.get('promise') ?? search.get('start');
  const day = isDay(asked) ? asked : '';
  const shape: View = VIEWS.find((known) => known === search.get('view')) ?? 'outline';
  const part = sheet?.kind === 'part' ? sheet.id : null;
  const query = new URLSearchParams({
    ...(day === '' ? {} : { [isBack ? 'promise' : 'start']: day }),
    ...(isReadOnly ? {} : { draft: 'yes' }),
  });
  const hasTasks = editor.content.tasks.length > 0;
  // A first task that was only just typed is scheduled once it is saved.
  const isSaved = editor.view.content.tasks.length > 0;
  const { data: run, error } = useDryRun(isSaved ? view.id : null, query.size === 0 ? '' : `?${query.toString()}`);
  const open = useCallback((id: string) => openSheet({ kind: 'part', id }), [openSheet]);
  const isOnMap = shape === 'map' && editor.content.tasks.some((task) => task.id === part);
  // On the map a step is chosen without a sheet: the note below tells of it, and opens all it presets.
  const isSheetOpen = sheet !== null && hasSheet(editor.content, sheet) && (!isOnMap || search.get('presets') === 'yes');
  const close = useCallback(() => (isOnMap ? show({ presets: null }) : openSheet(null)), [show, openSheet, isOnMap]);
  return (
    <Page>
      <Link
        href="/templates"
        style={{ display: 'inline-block', minHeight: 24, fontSize: 12.5, color: 'var(--ink-2)', textDecoration: 'none' }}
      >
        Templates ›
      </Link>
      <Head editor={editor} isReadOnly={isReadOnly} onOpen={(kind) => openSheet({ kind })} />
      <SavingNote editor={editor} />
      <Bar
        shape={shape}
        editor={editor}
        isReadOnly={isReadOnly}
        onShape={(next) => show({ view: next === 'outline' ? null : next, presets: null })}
      />
      {shape !== 'outline' ? null : run === undefined ? (
        !hasTasks ? (
          <Muted style={{ display: 'block', marginBottom: 12 }}>
            Add the first task below: from then on its days are scheduled on the real calendar here.
          </Muted>
        ) : error ? (
          <ErrorNote error={error} />
        ) : (
          <Loading rows={2} />
        )
      ) : (
        <DryRunBar
          run={run}
          day={day}
          isBack={isBack}
          problem={error?.message}
          today={today}
          onAsk={(mode, next) => show({ start: null, promise: null, [mode]: next })}
        />
      )}
      <WithSheet $isOpen={isSheetOpen}>
        <div style={{ minWidth: 0 }}>
          {shape === 'map' ? (
            <Suspense fallback={<Loading rows={12} />}>
              <ProcessMap
                editor={editor}
                isReadOnly={isReadOnly}
                openPart={part}
                onOpen={open}
                onClose={() => show({ part: null, presets: null })}
                onPresets={(id) => show({ show: null, part: id, presets: 'yes' })}
              />
            </Suspense>
          ) : shape === 'list' ? (
            <StepList editor={editor} isReadOnly={isReadOnly} onOpen={open} />
          ) : run === undefined && view.content.tasks.length > 0 && (isReadOnly || !error) ? (
            <Loading rows={12} />
          ) : (
            <TemplateOutline run={run ?? null} today={today} editor={isReadOnly ? null : editor} openPart={part} onOpen={open} />
          )}
        </div>
        {isSheetOpen ? <TemplateSheets sheet={sheet} editor={editor} isReadOnly={isReadOnly} onOpen={open} onClose={close} /> : null}
      </WithSheet>
    </Page>
  );
}

/** Sheets beside a template: of one of its phases or tasks, its versions, and what it took so far. */
const TEMPLATE_SHEETS = { things: ['part'], named: ['versions', 'learned'] } as const;
type TemplateSheet = OpenSheet<'part', (typeof TEMPLATE_SHEETS.named)[number]>;

/** Whether there is something to show: a part that was taken out leaves no empty place. */
const hasSheet = ({ phases, tasks }: TemplateContent, sheet: TemplateSheet): boolean =>
  sheet.kind !== 'part' || [...phases, ...tasks].some((part) => part.id === sheet.id);

interface SheetsProps {
  readonly sheet: TemplateSheet;
  readonly editor: TemplateEditor;
  readonly isReadOnly: boolean;
  readonly onOpen: (id: string) => void;
  readonly onClose: () => void;
}

function TemplateSheets({ sheet, editor, isReadOnly, onOpen, onClose }: SheetsProps) {
  if (sheet.kind === 'learned') return <LearnedSheet view={editor.view} onApplied={editor.adopt} onClose={onClose} />;
  if (sheet.kind === 'versions') return <VersionsSheet view={editor.view} onClose={onClose} />;
  if (isReadOnly) return null;
  const task = editor.content.tasks.find((candidate) => candidate.id === sheet.id);
  if (task !== undefined) return <TaskPreset key={task.id} editor={editor} task={task} onOpen={onOpen} onClose={onClose} />;
  const phase = editor.content.phases.find((candidate) => candidate.id === sheet.id);
  return phase === undefined ? null : <PhasePreset key={phase.id} editor={editor} phase={phase} onClose={onClose} />;
}

function Head({
  editor,
  isReadOnly,
  onOpen,
}: {
  readonly editor: TemplateEditor;
  readonly isReadOnly: boolean;
  readonly onOpen: (kind: 'learned' | 'versions') => void;
}) {
  const { view, content, edit } = editor;
  return (
    <PageHead>
      <h1>
        {isReadOnly ? (
          content.name
        ) : (
          <TextCell
            label="Name of the template"
            value={content.name}
            onSave={(name) => (name.trim() === '' ? false : edit((before) => ({ ...before, name: name.trim() })))}
            style={{ font: 'inherit', fieldSizing: 'content', width: 'auto', minWidth: 'fit-content' } as CSSProperties}
          />
        )}
      </h1>
      <Tag>version {view.version}</Tag>
      <Muted>
        {view.kind === 'engagement' ? `used ${count(view.usedTimes, 'time')} · ` : ''}
        {count(content.phases.length, 'phase')} · {count(content.tasks.length, 'task')}
      </Muted>
      <Push />
      <Button onPress={() => onOpen('learned')}>What it took</Button>
      <Button onPress={() => onOpen('versions')}>Versions</Button>
      <ButtonLink href={`/api/templates/${view.id}/export`} download={`${content.name}.json`} routerOptions={undefined as never}>
        Export
      </ButtonLink>
      {isReadOnly ? null : <KeepButton editor={editor} />}
      {view.kind === 'engagement' && !isReadOnly ? (
        <ButtonLink kind={view.isChanged ? 'plain' : 'primary'} href={`/engagements/start?template=${view.id}`}>
          Start an engagement with this
        </ButtonLink>
      ) : null}
    </PageHead>
  );
}

interface BarProps {
  readonly shape: View;
  readonly editor: TemplateEditor;
  readonly isReadOnly: boolean;
  readonly onShape: (shape: View) => void;
}

function Bar({ shape, editor, isReadOnly, onShape }: BarProps) {
  return (
    <div style={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 10, marginBottom: 12 }}>
      <Segmented
        label="Look at it as"
        parts={[
          { id: 'outline', name: 'Outline' },
          { id: 'map', name: 'Map' },
          { id: 'list', name: 'Steps as a list' },
        ]}
        value={shape}
        onChange={onShape}
      />
      <Push />
      {isReadOnly ? null : (
        <>
          <ComposeButton editor={editor} />
          <Button isDisabled={editor.undo === null} onPress={() => editor.undo?.()}>
            Take the last step back
          </Button>
        </>
      )}
    </div>
  );
}

interface RunProps {
  readonly run: DryRun;
  readonly day: IsoDay | '';
  readonly isBack: boolean;
  readonly problem: string | undefined;
  readonly today: IsoDay;
  readonly onAsk: (mode: 'start' | 'promise', day: IsoDay) => void;
}

/** The template scheduled on the real calendar beside the real load: nothing is saved. */
function DryRunBar({ run, day, isBack, problem, today, onAsk }: RunProps) {
  return (
    <Run aria-label="Dry run">
      <Segmented
        label="Plan from"
        parts={[
          { id: 'start', name: 'From a start' },
          { id: 'promise', name: 'Back from a promise' },
        ]}
        value={isBack ? 'promise' : 'start'}
        onChange={(mode) => onAsk(mode, mode === 'promise' ? run.finish : run.start)}
      />
      <div style={{ width: 168 }}>
        <DayField
          isTight
          label=""
          aria-label={isBack ? 'Promised date' : 'Start'}
          today={today}
          value={day === '' ? run.start : day}
          onChange={(next) => (next === '' ? undefined : onAsk(isBack ? 'promise' : 'start', next))}
          error={problem}
        />
      </div>
      <span>
        {isBack ? 'start by' : 'finishes'} <strong>{dayWords(isBack ? run.start : run.finish, today)}</strong>
      </span>
      <EffortByRole run={run} />
      <span>
        skips <strong>{count(run.closedDays, 'closed day')}</strong>
      </span>
      <Push />
      <span style={{ color: run.overloads.length > 0 ? 'var(--brick)' : 'var(--moss)', fontWeight: 600 }}>{overloadWords(run, today)}</span>
    </Run>
  );
}

function EffortByRole({ run }: { readonly run: DryRun }) {
  return (
    <DialogTrigger>
      <Button kind="quiet" style={{ padding: 0, color: 'var(--ink)', fontWeight: 400, fontSize: 13.5 }}>
        effort <strong>{hourWords(run.effortMinutes)}</strong> <span aria-hidden="true">▾</span>
      </Button>
      <PopoverPanel>
        <Dialog aria-label="Effort by role" style={{ outline: 'none', padding: '8px 12px', minWidth: 230 }}>
          {run.effortByRole.map(({ role, minutes }) => (
            <p key={role} style={{ display: 'flex', justifyContent: 'space-between', gap: 18 }}>
              <span>{role}</span>
              <strong>{hourWords(minutes)}</strong>
            </p>
          ))}
        </Dialog>
      </PopoverPanel>
    </DialogTrigger>
  );
}

function overloadWords(run: DryRun, today: IsoDay): string {
  const first = [...run.overloads].sort((left, right) => right.minutes - left.minutes)[0];
  if (first === undefined) return 'Nobody would be overloaded';
  const others = run.overloads.length - 1;
  return `${first.person.name.split(' ')[0]} would go ${hours(first.minutes)} h over from ${dayWords(first.firstDay, today)}${others > 0 ? `; ${count(others, 'other')} too` : ''}`;
}
