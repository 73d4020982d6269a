import type { CalendarInput } from '../calendar/calendar.ts';
import type { PersonInput } from '../calendar/capacity.ts';
import type { IsoDay } from '../calendar/day.ts';

/** Who has a task: `share` of it among all who have it (default 1), and what of that they put on days of their own week. */
export interface LoadAssignee {
  readonly person: string;
  readonly share?: number;
  readonly placed?: readonly { readonly day: IsoDay; readonly minutes: number }[] | null;
}

/** Work to spread over people's days. Minutes throughout; `likelihood` in percent. */
export interface LoadTaskInput {
  readonly id: string;
  readonly assignees: readonly LoadAssignee[];
  readonly estimate?: number;
  readonly logged?: number;
  readonly remaining?: number;
  readonly start: IsoDay;
  readonly due: IsoDay;
  readonly done?: boolean;
  readonly likelihood?: number;
}

/** What `load` needs; `defaultMinutes` stands in for a missing estimate. */
export interface LoadInput {
  readonly calendar: CalendarInput;
  readonly today: IsoDay;
  readonly from: IsoDay;
  readonly to: IsoDay;
  readonly defaultMinutes: number;
  readonly people: readonly PersonInput[];
  readonly tasks: readonly LoadTaskInput[];
}

/** Minutes on one day. */
export interface LoadDay {
  readonly date: IsoDay;
  readonly capacity: number;
  readonly load: number;
  readonly over: number;
}

/** Load against capacity for every calendar day asked for, and how many tasks had no estimate. */
export interface Load {
  readonly people: readonly { readonly id: string; readonly days: readonly LoadDay[] }[];
  readonly unestimated: number;
}
