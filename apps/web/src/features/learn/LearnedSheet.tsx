import { Trouble, Note } from '../../ui/text.tsx';
import { perform } from '../../session/perform.ts';
import { can, type LearnedExtra, type LearnedRun, type LearnedTask, type LearnedTemplate, type TemplateContentView } from '@crew/contract';
import { useCallback, useMemo, useState } from 'react';
import { Disclosure, DisclosurePanel, Button as AriaButton, Link } from 'react-aria-components';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useLearned } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Chart } from '../../ui/Chart.tsx';
import { ErrorNote, Loading, Muted } from '../../ui/layout.tsx';
import { Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { count, dayWords, hourWords } from '../../words/format.ts';
import { chartedTasks, extraWords, inOrder, plannedAgainstReal, proposalWords, rangeWords } from './learned-words.ts';

const PendingNote = styled.p`
  color: var(--amber);
  font-size: 12.5px;
  margin-bottom: 6px;
`;

const Figure = styled.figure`
  margin: 0 0 6px;
`;

const Task = styled.li`
  padding: 9px 0;
  border-top: 1px solid var(--line-2);
  strong {
    font-weight: 600;
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
`;
const Opener = styled(AriaButton)`
  padding: 0;
  border: 0;
  background: transparent;
  color: var(--petrol);
  font-size: 12px;
  font-weight: 600;
  cursor: pointer;
`;
const Runs = styled.ul`
  margin: 4px 0 2px;
  padding-left: 12px;
  border-left: 2px solid var(--line-2);
  font-size: 12.5px;
  li {
    display: flex;
    justify-content: space-between;
    gap: 12px;
    padding: 2px 0;
  }
`;
const Foot = styled.div`
  position: sticky;
  bottom: -20px;
  padding: 10px 0 16px;
  background: var(--panel);
`;

interface LearnedSheetProps {
  readonly view: TemplateContentView;
  /** The template as it is once something was taken. */
  readonly onApplied: (view: TemplateContentView) => void;
  readonly onClose: () => void;
}

/** What a template's tasks really took, with the runs behind each number; what is chosen becomes the next version. */
export function LearnedSheet({ view, onApplied, onClose }: LearnedSheetProps) {
  const { data: learned, error } = useLearned(view.id);
  return (
    <Sheet label="Planned against actual" line={view.content.name} onClose={onClose}>
      <SheetTitle>Planned against actual</SheetTitle>
      {error && learned === undefined ? (
        <ErrorNote error={error} />
      ) : learned === undefined ? (
        <Loading rows={8} />
      ) : learned.engagements === 0 ? (
        <Note>No task from this template is finished yet. Figures appear here after three runs.</Note>
      ) : (
        <Learned templateId={view.id} learned={learned} onApplied={onApplied} />
      )}
    </Sheet>
  );
}

interface LearnedProps {
  readonly templateId: string;
  readonly learned: LearnedTemplate;
  readonly onApplied: (view: TemplateContentView) => void;
}

function Learned({ templateId, learned, onApplied }: LearnedProps) {
  const me = useWho();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [problem, setProblem] = useState<string | null>(null);
  const tasks = useMemo(() => inOrder(learned.tasks.filter((task) => task.runs.length > 0)), [learned]);
  const proposals = tasks.reduce((sum, task) => sum + task.proposals.length, learned.extras.length);
  const toggle = (id: string): void =>
    setChosen(chosen.has(id) ? new Set([...chosen].filter((other) => other !== id)) : new Set([...chosen, id]));
  const apply = async (): Promise<void> => {
    const body = { revision: learned.revision, proposals: [...chosen] };
    const applied = await perform({
      send: () => call<TemplateContentView>('POST', `/templates/${templateId}/learned`, body),
      said: ({ version }) =>
        `Version ${version} saved with ${count(chosen.size, 'change')} from past runs. Running engagements keep their version.`,
      onTrouble: setProblem,
    });
    if (!applied.isDone) return;
    onApplied(applied.answer);
    setChosen(new Set());
    setProblem(null);
  };
  return (
    <>
      <Note>
        From {count(learned.engagements, 'engagement')}.{' '}
        {proposals === 0 ? 'No estimate is far enough off to change.' : `${count(proposals, 'proposal')}: choose the changes to make.`}
      </Note>
      <PlannedAgainstReal tasks={learned.tasks} />
      <ul>
        {tasks.map((task) => (
          <OneTask key={task.taskId} task={task} chosen={chosen} mayChoose={can(me, 'learn.apply')} onToggle={toggle} />
        ))}
      </ul>
      <Extras extras={learned.extras} chosen={chosen} mayChoose={can(me, 'learn.apply')} onToggle={toggle} />
      {can(me, 'learn.apply') && proposals > 0 ? (
        <Foot>
          <Trouble words={problem} />
          {learned.isChanged ? <PendingNote>The template has changes not yet saved as a version; they are included.</PendingNote> : null}
          <Button kind="primary" isDisabled={chosen.size === 0} onPress={() => void apply()}>
            {chosen.size === 0 ? 'Choose changes' : `Save version ${learned.version + 1} with ${count(chosen.size, 'change')}`}
          </Button>
        </Foot>
      ) : null}
    </>
  );
}

function PlannedAgainstReal({ tasks }: { readonly tasks: readonly LearnedTask[] }) {
  const charted = useMemo(() => chartedTasks(tasks), [tasks]);
  const option = useCallback((colour: (token: string) => string) => plannedAgainstReal(charted, colour), [charted]);
  if (charted.length < 2) return null;
  return (
    <Figure>
      <Muted as="figcaption">grey = planned, green = median of the runs</Muted>
      <Chart label={`Planned against real effort of ${count(charted.length, 'task')}`} height={charted.length * 24 + 32} option={option} />
    </Figure>
  );
}

interface OneTaskProps {
  readonly task: LearnedTask;
  readonly chosen: ReadonlySet<string>;
  readonly mayChoose: boolean;
  readonly onToggle: (id: string) => void;
}

function OneTask({ task, chosen, mayChoose, onToggle }: OneTaskProps) {
  return (
    <Task>
      <strong>{task.title}</strong>
      <small>
        {task.phase} · {rangeWords(task)}
        {task.workingDays === null ? '' : ` · ${count(task.days, 'day')} planned, ${task.workingDays.middle} taken`}
        {task.dropped === 0 ? '' : ` · dropped in ${task.dropped} % of runs`}
      </small>
      {task.proposals.map((proposal) =>
        mayChoose ? (
          <Tick key={proposal.id} isSelected={chosen.has(proposal.id)} onChange={() => onToggle(proposal.id)}>
            {proposalWords(proposal)}
          </Tick>
        ) : (
          <p key={proposal.id}>{proposalWords(proposal)}</p>
        ),
      )}
      <BehindIt runs={task.runs} />
    </Task>
  );
}

function BehindIt({ runs }: { readonly runs: readonly LearnedRun[] }) {
  const { today } = useWho();
  return (
    <Disclosure>
      {({ isExpanded }) => (
        <>
          <Opener slot="trigger">{isExpanded ? 'Hide runs' : `Show ${count(runs.length, 'run')}`}</Opener>
          <DisclosurePanel>
            <Runs>
              {runs.map((run) => (
                <li key={run.taskId}>
                  <Link href={`/engagements/${run.engagement.id}?task=${run.taskId}`}>{run.engagement.name}</Link>
                  <span>
                    {run.isDropped
                      ? 'dropped'
                      : [
                          run.minutes === null ? 'no time logged' : hourWords(run.minutes),
                          ...(run.days === null ? [] : [count(run.days, 'day')]),
                          ...(run.doneOn === null ? [] : [dayWords(run.doneOn, today)]),
                        ].join(' · ')}
                  </span>
                </li>
              ))}
            </Runs>
          </DisclosurePanel>
        </>
      )}
    </Disclosure>
  );
}

function Extras({ extras, chosen, mayChoose, onToggle }: Omit<OneTaskProps, 'task'> & { readonly extras: readonly LearnedExtra[] }) {
  if (extras.length === 0) return null;
  return (
    <SheetPart>
      <h3>Often added</h3>
      <Note $isSmall>Not in the template, but added in several engagements.</Note>
      <ul>
        {extras.map((extra) => (
          <Task key={extra.title}>
            <strong>{extra.title}</strong>
            <small>
              {extra.phase} · in {count(extra.runs.length, 'engagement')}
            </small>
            {mayChoose ? (
              <Tick isSelected={chosen.has(extra.id)} onChange={() => onToggle(extra.id)}>
                add it: {extraWords(extra)}
              </Tick>
            ) : null}
            <BehindIt runs={extra.runs} />
          </Task>
        ))}
      </ul>
    </SheetPart>
  );
}
