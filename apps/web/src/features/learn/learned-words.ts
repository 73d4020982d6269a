import type { LearnedExtra, LearnedProposal, LearnedTask } from '@crew/contract';
import type { EChartsCoreOption } from 'echarts/core';
import { count, hours, hourWords } from '../../words/format.ts';

/** "usually 12.2 h, mostly 11.7–12.7 h" against what is planned. */
export function rangeWords({ minutes, n, estimateMinutes }: LearnedTask): string {
  if (minutes === null) return n === 0 ? 'no run yet' : `${count(n, 'run')}, none with time logged`;
  const planned = estimateMinutes === null ? 'not estimated' : `planned ${hourWords(estimateMinutes)}`;
  const range = minutes.p20 === minutes.p80 ? '' : `, mostly ${hours(minutes.p20)}–${hourWords(minutes.p80)}`;
  return `${planned} · took ${hourWords(minutes.middle)}, median of ${count(n, 'run')}${range}`;
}

/** What would change, as a sentence. */
export function proposalWords(proposal: LearnedProposal): string {
  switch (proposal.kind) {
    case 'effort':
      return `estimate ${hourWords(proposal.to)}${proposal.from === null ? '' : ` instead of ${hourWords(proposal.from)}`}`;
    case 'length':
      return `plan ${count(proposal.to, 'day')} instead of ${proposal.from}`;
    case 'add-step':
      return `add the step “${proposal.title}”, which ${count(proposal.runs, 'run')} had`;
    case 'drop-task':
      return `leave it out, as ${proposal.runs} of ${count(proposal.of, 'run')} did`;
    case 'drop-step':
      return `leave out the step “${proposal.title}”, as ${count(proposal.runs, 'run')} did`;
  }
}

/** What an added task would be in the template: "by the Writer, 1.5 h, 2 days, at the end of Draw". */
export function extraWords({ role, minutes, days, phase }: LearnedExtra): string {
  const who = role === null ? [] : [`by the ${role}`];
  return [...who, minutes === null ? 'not estimated' : hourWords(minutes), count(days, 'day'), `in ${phase}`].join(', ');
}

/** Tasks with a proposal first, then those with the most runs. */
export const inOrder = (tasks: readonly LearnedTask[]): LearnedTask[] =>
  [...tasks].sort((left, right) => Number(right.proposals.length > 0) - Number(left.proposals.length > 0) || right.n - left.n);

const MOST_BARS = 12;

/** Planned beside real, for the tasks with enough runs to speak of. */
export function chartedTasks(tasks: readonly LearnedTask[]): LearnedTask[] {
  return inOrder(tasks)
    .filter((task) => task.minutes !== null && task.n >= 3 && task.estimateMinutes !== null)
    .slice(0, MOST_BARS);
}

/** Planned as pale bars, the middle of the runs as solid ones, hours along the line. */
export function plannedAgainstReal(tasks: readonly LearnedTask[], colour: (token: string) => string): EChartsCoreOption {
  const text = { color: colour('ink-2'), fontSize: 11 };
  const hoursOf = (minutes: number): number => Math.round(minutes / 6) / 10;
  const shown = [...tasks].reverse();
  return {
    grid: { left: 132, right: 12, top: 4, bottom: 22 },
    tooltip: {
      trigger: 'axis',
      axisPointer: { type: 'none' },
      backgroundColor: colour('ink'),
      borderWidth: 0,
      textStyle: { color: colour('panel'), fontSize: 12 },
      valueFormatter: (value: unknown) => `${String(value)} h`,
    },
    xAxis: { type: 'value', axisLabel: { ...text, formatter: '{value} h' }, splitLine: { lineStyle: { color: colour('line-2') } } },
    yAxis: {
      type: 'category',
      data: shown.map((task) => task.title),
      axisTick: { show: false },
      axisLine: { show: false },
      axisLabel: { ...text, width: 124, overflow: 'truncate' },
    },
    series: [
      {
        name: 'planned',
        type: 'bar',
        barWidth: 6,
        data: shown.map((task) => hoursOf(task.estimateMinutes ?? 0)),
        itemStyle: { color: colour('line') },
      },
      {
        name: 'really',
        type: 'bar',
        barWidth: 6,
        data: shown.map((task) => hoursOf(task.minutes?.middle ?? 0)),
        itemStyle: { color: colour('petrol-mid') },
      },
    ],
  };
}
