import type { IsoDay } from '@crew/core';
import type { TaskSeriesView } from '@crew/contract';
import { shortDay } from '../../words/format.ts';
import { ruleWords } from '../../words/rhythm.ts';

/** The form has room for seven weekdays beside each other. */
export const FORM_WIDTH = 372;

/** How a series repeats, or since when it does not any more. */
export const repeatWords = (series: Pick<TaskSeriesView, 'rule' | 'stoppedOn'>, today: IsoDay): string =>
  series.stoppedOn === null ? ruleWords(series.rule, today) : `stopped from ${shortDay(series.stoppedOn, today)}`;
