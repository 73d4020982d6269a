import type { ReactNode } from 'react';
import { Baton } from '../../ui/Baton.tsx';

/** Our own words, each in two sentences with a small drawing. */
export type OwnWord = 'track' | 'baton' | 'gate' | 'packet' | 'round' | 'state-line' | 'slack' | 'likely';

export interface Explained {
  readonly title: string;
  readonly text: string;
  readonly drawing: ReactNode;
}

/** A bar of a track, drawn from one place to another. */
const Bar = ({ from, to, done = 1 }: { readonly from: number; readonly to: number; readonly done?: number }) => (
  <>
    <rect x={from} y={18} width={to - from} height={12} rx={3} fill="var(--panel)" stroke="var(--petrol)" strokeWidth={1.5} />
    {done === 0 ? null : <rect x={from} y={18} width={(to - from) * done} height={12} rx={3} fill="var(--petrol)" />}
  </>
);
const Word = ({ x, y = 12, children }: { readonly x: number; readonly y?: number; readonly children: string }) => (
  <text x={x} y={y} fontSize={10} fill="var(--ink-2)">
    {children}
  </text>
);
const Joint = ({ x }: { readonly x: number }) => (
  <circle cx={x} cy={24} r={5} fill="var(--panel)" stroke="var(--petrol)" strokeWidth={1.6} />
);
const Upright = ({ x }: { readonly x: number }) => <rect x={x} y={12} width={2} height={24} fill="var(--ink)" />;
const drawn = (children: ReactNode): ReactNode => (
  <svg viewBox="0 0 240 44" width="100%" aria-hidden="true">
    {children}
  </svg>
);

export const WORDS_EXPLAINED: Readonly<Record<OwnWord, Explained>> = {
  track: {
    title: 'Track',
    text: 'An engagement drawn along time: one bar for each phase, full when it is over. The upright line is the day that was promised.',
    drawing: drawn(
      <>
        <Word x={4}>Concept</Word>
        <Word x={84}>Design</Word>
        <Bar from={4} to={70} />
        <Joint x={76} />
        <Bar from={84} to={150} done={0.5} />
        <Joint x={156} />
        <Bar from={164} to={204} done={0} />
        <Upright x={224} />
      </>,
    ),
  },
  baton: {
    title: 'Baton',
    text: 'It stands where one phase is handed to the next. Its shape says whether that is getting ready, was handed off, was picked up, or came back with a question.',
    drawing: (
      <span>
        {(['not-due', 'getting-ready', 'handed-off', 'picked-up', 'sent-back'] as const).map((state) => (
          <Baton key={state} state={state} size={20} />
        ))}
      </span>
    ),
  },
  gate: {
    title: 'Gate',
    text: 'What has to be true before a phase is handed off: tasks done, the client’s answer, somebody’s confirmation. A lead can pass it with a reason, which is kept.',
    drawing: drawn(
      <>
        <Bar from={4} to={96} />
        <text x={112} y={28} fontSize={13} fill="var(--moss)">
          ✓ ✓ ✓
        </text>
        <Bar from={156} to={236} done={0} />
      </>,
    ),
  },
  packet: {
    title: 'Packet',
    text: 'What goes along with a handoff: results, decisions, answers of the client and open questions. It is put together from the phase, and you can add a note or leave something out.',
    drawing: drawn(
      <>
        <Bar from={4} to={84} />
        <rect x={98} y={12} width={36} height={24} rx={3} fill="var(--petrol-soft)" stroke="var(--petrol)" strokeWidth={1.5} />
        <path d="M104 20 H128 M104 25 H128 M104 30 H120" stroke="var(--petrol)" strokeWidth={1.5} />
        <Bar from={148} to={236} done={0} />
      </>,
    ),
  },
  round: {
    title: 'Round',
    text: 'One turn through the same work, such as corrections by the client. How many are agreed stands in the template; a further one is the lead’s decision.',
    drawing: drawn(
      <>
        <Bar from={4} to={110} />
        <path d="M150 24 a12 12 0 1 1 -6 -10" fill="none" stroke="var(--petrol)" strokeWidth={2} />
        <path d="M138 9 L146 14 L138 19 Z" fill="var(--petrol)" />
        <Word x={164} y={28}>
          round 2 of 2
        </Word>
      </>,
    ),
  },
  'state-line': {
    title: 'State line',
    text: 'One sentence that says where the client stands while a phase runs. It is written in the template and is the same on every screen.',
    drawing: drawn(
      <>
        <Bar from={4} to={90} />
        <Bar from={100} to={190} done={0.4} />
        <Word x={100}>Now: pages being designed</Word>
      </>,
    ),
  },
  slack: {
    title: 'Slack',
    text: 'How many working days a task can be late before the promise is missed. Without slack, each late day of the task makes the engagement late.',
    drawing: drawn(
      <>
        <Bar from={4} to={120} done={0.6} />
        <path d="M124 24 H214" stroke="var(--petrol)" strokeWidth={1.5} strokeDasharray="3 3" />
        <Word x={140}>4 days of slack</Word>
        <Upright x={218} />
      </>,
    ),
  },
  likely: {
    title: 'Likely, safe and promised',
    text: 'Likely is met in half of all cases and safe in four of five, judged by how your own work really went. The upright line is the day you promised.',
    drawing: drawn(
      <>
        <Bar from={4} to={140} />
        <path d="M150 34 H184" stroke="var(--petrol-mid)" strokeWidth={4} strokeDasharray="2 3" />
        <Word x={138}>likely – safe</Word>
        <Upright x={218} />
      </>,
    ),
  },
};
