import { can, type TemplateContentView } from '@crew/contract';
import type { TemplateContent } from '@crew/core';
import { lazy, Suspense, useCallback } from 'react';
import { Link } from 'react-aria-components';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { useTemplateContent } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { useOpenSheet, type OpenSheet } from '../../session/open-sheet.ts';
import { useShown } from '../../session/use-shown.ts';
import { ErrorNote, Loading, Muted, Page, WithSheet } from '../../ui/layout.tsx';
import { LearnedSheet } from '../learn/LearnedSheet.tsx';
import { DryRunBar } from './DryRunBar.tsx';
import { PhasePreset } from './PhasePreset.tsx';
import { SavingNote } from './SavingNote.tsx';
import { StepList } from './StepList.tsx';
import { TaskPreset } from './TaskPreset.tsx';
import { TEMPLATE_SHAPES, TemplateHead, TemplateTools, type TemplateShape } from './TemplateHead.tsx';
import { TemplateOutline } from './TemplateOutline.tsx';
import { useDryRunAsked, type AskedRun } from './use-dry-run-asked.ts';
import { useTemplateEditor, type TemplateEditor } from './use-template-editor.ts';
import { VersionsSheet } from './VersionsSheet.tsx';

/** Loaded when it is looked at: drawing takes a library of its own. */
const ProcessMap = lazy(() => import('./map/ProcessMap.tsx').then((module) => ({ default: module.ProcessMap })));

const UpLink = styled(Link)`
  display: inline-block;
  min-height: 24px;
  font-size: 12.5px;
  color: var(--ink-2);
  text-decoration: none;
`;
const FirstTask = styled(Muted)`
  display: block;
  margin-bottom: 12px;
`;

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
  const editor = useTemplateEditor(view);
  const [search, show] = useShown();
  const [sheet, openSheet] = useOpenSheet(TEMPLATE_SHEETS);
  const shape: TemplateShape = TEMPLATE_SHAPES.find((known) => known === search.get('view')) ?? 'outline';
  const dryRun = useDryRunAsked(editor, isReadOnly);
  const part = sheet?.kind === 'part' ? sheet.id : null;
  const open = useCallback((id: string) => openSheet({ kind: 'part', id }), [openSheet]);
  const isOnMap = shape === 'map' && editor.content.tasks.some((task) => task.id === part);
  // On the map a step is chosen without a sheet: the note below tells of it, and opens all it presets.
  const isSheetOpen = sheet !== null && hasSheet(editor.content, sheet) && (!isOnMap || search.get('presets') === 'yes');
  const close = useCallback(() => (isOnMap ? show({ presets: null }) : openSheet(null)), [show, openSheet, isOnMap]);
  const parts = { editor, isReadOnly, onOpen: open };
  return (
    <Page>
      <UpLink href="/templates">Templates ›</UpLink>
      <TemplateHead editor={editor} isReadOnly={isReadOnly} onOpen={(kind) => openSheet({ kind })} />
      <SavingNote editor={editor} />
      <TemplateTools
        shape={shape}
        editor={editor}
        isReadOnly={isReadOnly}
        onShape={(next) => show({ view: next === 'outline' ? null : next, presets: null })}
      />
      {shape === 'outline' ? <DryRunPart dryRun={dryRun} hasTasks={editor.content.tasks.length > 0} /> : null}
      <WithSheet $isOpen={isSheetOpen}>
        <div>
          {shape === 'map' ? (
            <Suspense fallback={<Loading rows={12} />}>
              <ProcessMap
                {...parts}
                openPart={part}
                onClose={() => show({ part: null, presets: null })}
                onPresets={(id) => show({ show: null, part: id, presets: 'yes' })}
              />
            </Suspense>
          ) : shape === 'list' ? (
            <StepList {...parts} />
          ) : (
            <OutlineOnceScheduled {...parts} dryRun={dryRun} openPart={part} />
          )}
        </div>
        {isSheetOpen ? <TemplateSheets {...parts} sheet={sheet} onClose={close} /> : null}
      </WithSheet>
    </Page>
  );
}

/** The dry run, or why there is none: nothing to schedule yet, or a plan that cannot be scheduled. */
function DryRunPart({ dryRun, hasTasks }: { readonly dryRun: AskedRun; readonly hasTasks: boolean }) {
  const { today } = useWho();
  const { run, error, onAsk, day, isBack } = dryRun;
  if (run !== undefined) return <DryRunBar {...{ run, day, isBack, today, onAsk }} problem={error?.message} />;
  if (!hasTasks) return <FirstTask>Add the first task below: from then on its days are scheduled on the real calendar here.</FirstTask>;
  return error ? <ErrorNote error={error} /> : <Loading rows={2} />;
}

interface PartProps {
  readonly editor: TemplateEditor;
  readonly isReadOnly: boolean;
  readonly onOpen: (id: string) => void;
}

/** Who only reads sees nothing but the dry run's days; who edits needs the outline also when it cannot be scheduled. */
function OutlineOnceScheduled({
  editor,
  isReadOnly,
  onOpen,
  dryRun: { run, error },
  openPart,
}: PartProps & { readonly dryRun: AskedRun; readonly openPart: string | null }) {
  const { today } = useWho();
  const isAwaited = run === undefined && editor.view.content.tasks.length > 0 && (isReadOnly || !error);
  if (isAwaited) return <Loading rows={12} />;
  return <TemplateOutline run={run ?? null} today={today} editor={isReadOnly ? null : editor} openPart={openPart} onOpen={onOpen} />;
}

/** Sheets beside a template: of one of its phases or tasks, its versions, and what it took so far. */
const TEMPLATE_SHEETS = { things: ['part'], named: ['versions', 'learned'] } as const;
type TemplateSheet = OpenSheet<'part', (typeof TEMPLATE_SHEETS.named)[number]>;

/** Whether there is something to show: a part that was taken out leaves no empty place. */
const hasSheet = ({ phases, tasks }: TemplateContent, sheet: TemplateSheet): boolean =>
  sheet.kind !== 'part' || [...phases, ...tasks].some((part) => part.id === sheet.id);

interface SheetsProps extends PartProps {
  readonly sheet: TemplateSheet;
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
