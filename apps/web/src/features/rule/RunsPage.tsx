import { can, RUN_STATE, thenParts, type RuleNames, type RunLine, type RunState, type ThenKind } from '@crew/contract';
import { useState } from 'react';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useRules, useRuns } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { useShown } from '../../session/use-shown.ts';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Empty, ErrorNote, Inline, Loading, Muted, Page, PageHead, Panel, Push } from '../../ui/layout.tsx';
import { HueMark } from '../../ui/marks.tsx';
import { Quiet, Toned } from '../../ui/text.tsx';
import { phone } from '../../ui/tokens.ts';
import { dayOf, dayWords, timeWords } from '../../words/format.ts';
import { causeWords, heldWords, RUN_STATE_WORDS } from './rule-words.ts';
import { RuleText } from './RuleText.tsx';
import { retryRun, undoRun } from './use-rules.ts';

const Row = styled.li<{ $depth: number }>`
  display: grid;
  grid-template-columns: 112px 4px minmax(0, 1fr) auto;
  align-items: start;
  gap: 2px 10px;
  padding: 9px 14px 9px ${({ $depth }) => 14 + Math.min($depth, 3) * 26}px;
  border-top: 1px solid var(--line-2);
  &:first-child {
    border-top: 0;
  }
  > time {
    color: var(--ink-2);
    font-size: 12.5px;
  }
  > :nth-child(2) {
    align-self: stretch;
  }
  ${phone} {
    grid-template-columns: 4px minmax(0, 1fr);
    > time {
      grid-column: 1 / -1;
    }
    > :last-child {
      grid-column: 2;
    }
  }
`;
const Effects = styled.ul`
  margin: 3px 0 0;
  > li {
    display: flex;
    gap: 8px;
    align-items: baseline;
    color: var(--ink-2);
  }
`;
const Cause = styled.p`
  font-weight: 600;
`;

const ALL = 'all';

/** What rules did, at which event, and why others were held. */
export function RunsPage() {
  const [search, show] = useShown();
  const { data: list } = useRules();
  const rules = (list?.rules ?? []).map(({ id, content }) => ({ id, content }));
  const state = RUN_STATE.find((one) => one === search.get('state')) ?? null;
  const query = [
    ...(['rule', 'run'] as const).flatMap((name) => (search.get(name) === null ? [] : [`${name}=${search.get(name)}`])),
    ...(state === null ? [] : [`state=${state}`]),
  ].join('&');
  const only = rules.find(({ id }) => id === search.get('rule'));
  return (
    <Page>
      <PageHead>
        <h1>Runs of rules</h1>
        <Push />
        <ButtonLink href="/handoffs/rules">Back to rules</ButtonLink>
      </PageHead>
      <PageHead as="div">
        <Choose
          label="Show"
          isTight
          choices={[{ id: ALL, name: 'every run' }, ...RUN_STATE.map((id) => ({ id, name: RUN_STATE_WORDS[id] }))]}
          value={state ?? ALL}
          onChange={(id: RunState | typeof ALL) => show({ state: id === ALL ? null : id })}
        />
        {only === undefined || list === undefined ? null : (
          <span>
            Of the rule: <RuleText content={only.content} names={list.names} />
          </span>
        )}
        {search.get('rule') === null && search.get('run') === null ? null : (
          <Button kind="quiet" onPress={() => show({ rule: null, run: null })}>
            Show all
          </Button>
        )}
      </PageHead>
      <Panel aria-label="Runs">
        <ul key={query}>
          <RunLines query={query} />
        </ul>
      </Panel>
    </Page>
  );
}

/** One page of runs, and the next one once it is asked for. */
function RunLines({ query }: { readonly query: string }) {
  const [isMore, setMore] = useState(false);
  const { data, error } = useRuns(query);
  if (error) return <li>{<ErrorNote error={error} />}</li>;
  if (data === undefined) return <li>{<Loading />}</li>;
  if (data.runs.length === 0)
    return (
      <li>
        <Empty title="No runs here.">When something triggers a rule, the run appears here with what it did.</Empty>
      </li>
    );
  return (
    <>
      {data.runs.map((run) => (
        <RunRow key={run.id} run={run} names={data.names} depth={depthOf(run, data.runs)} />
      ))}
      {data.before === null ? null : isMore ? (
        <RunLines query={[query.replace(/&?before=\d+$/, ''), `before=${data.before}`].filter((part) => part !== '').join('&')} />
      ) : (
        <li>
          <Button kind="quiet" onPress={() => setMore(true)}>
            Show earlier
          </Button>
        </li>
      )}
    </>
  );
}

/** How many runs of the same page led to this one. */
function depthOf(run: RunLine, runs: readonly RunLine[]): number {
  const cause = runs.find(({ id }) => id === run.causedBy);
  return cause === undefined ? 0 : 1 + depthOf(cause, runs);
}

function RunRow({ run, names, depth }: { readonly run: RunLine; readonly names: RuleNames; readonly depth: number }) {
  const { today, zone } = useWho();
  const { engagement, cause, why, condition, rule } = run;
  return (
    <Row $depth={depth}>
      <time dateTime={run.at}>
        {dayWords(dayOf(run.at, zone), today)} {timeWords(run.at, zone)}
      </time>
      {engagement === null ? <span /> : <HueMark $hue={engagement.hue} />}
      <div>
        <Cause>
          {causeWords(cause)}
          {engagement === null ? null : (
            <Muted>
              {' '}
              · <Link href={`/engagements/${engagement.id}`}>{engagement.name}</Link>
            </Muted>
          )}
        </Cause>
        <Quiet>
          <RuleText content={rule.content} names={names} />
          {rule.isRemoved ? ' (removed since)' : ''}
        </Quiet>
        {why === null ? (
          <EffectLines run={run} names={names} />
        ) : (
          <p>Held: {heldWords({ why, condition }, { content: rule.content, names })}.</p>
        )}
        {run.causedBy === null ? null : (
          <Muted>
            {depth > 0 ? (
              'Followed from the run above or below.'
            ) : (
              <Link href={`/handoffs/rules/runs?run=${run.causedBy}`}>What led to it</Link>
            )}
          </Muted>
        )}
      </div>
      <RunActs run={run} />
    </Row>
  );
}

const EFFECT_MARKS = { done: '✓', nothing: '–', failed: '✕', undone: '↩', waiting: '…' } as const;

function EffectLines({ run, names }: { readonly run: RunLine; readonly names: RuleNames }) {
  return (
    <Effects>
      {run.effects.map(({ place, state, said, then }) => (
        <li key={place}>
          <Toned $tone={state === 'failed' ? 'bad' : state === 'done' ? 'good' : 'quiet'} aria-label={state} role="img">
            {EFFECT_MARKS[state]}
          </Toned>
          <span>
            {said === ''
              ? thenParts(then, names)
                  .map((part) => part.text)
                  .join('')
              : said}
            {then.do === 'tell' && state === 'done' ? ` “${String(then.slots['text'])}”` : ''}
            {state === 'undone' ? ' Undone.' : ''}
          </span>
        </li>
      ))}
    </Effects>
  );
}

/** What can be done about a run. */
function RunActs({ run }: { readonly run: RunLine }) {
  const me = useWho();
  if (!can(me, 'rule.edit')) return <span />;
  const hasChanged = (run.state === 'done' || run.state === 'failed') && run.effects.some(canGoBack);
  return (
    <Inline $gap={4}>
      {run.state === 'failed' ? (
        <Button kind="quiet" onPress={() => void retryRun(run)}>
          Try again
        </Button>
      ) : null}
      {hasChanged ? (
        <Button kind="quiet" onPress={() => void undoRun(run)}>
          Undo
        </Button>
      ) : null}
    </Inline>
  );
}

/** What people were told or mailed, or have on their desk, stays. */
const STAYING: ReadonlySet<ThenKind> = new Set(['tell', 'mail', 'mail-client', 'call-webhook', 'ready-handoff']);
const canGoBack = ({ state, changeId, then }: RunLine['effects'][number]): boolean =>
  state === 'done' && changeId !== null && !STAYING.has(then.do);
