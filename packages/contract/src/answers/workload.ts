import type { ClientHue } from '../words.ts';
import type { PersonRef } from './crew.ts';

/* The load grid. Days are ISO days, effort is minutes, times are ISO instants. */

export interface WorkloadCell {
  readonly date: string;
  readonly capacity: number;
  readonly load: number;
  readonly over: number;
  readonly isOff: boolean;
}

export interface WorkloadRow {
  readonly person: PersonRef;
  readonly roles: readonly string[];
  readonly days: readonly WorkloadCell[];
  readonly tasks: readonly WorkloadTask[];
}

export interface WorkloadTask {
  readonly id: string;
  readonly title: string;
  readonly engagement: { readonly id: string; readonly name: string; readonly hue: ClientHue };
  readonly start: string;
  readonly due: string;
  readonly minutes: number;
}

export interface Workload {
  readonly from: string;
  readonly to: string;
  readonly dates: readonly { readonly date: string; readonly isClosed: boolean }[];
  readonly rows: readonly WorkloadRow[];
  readonly unassigned: readonly WorkloadTask[];
  readonly unestimated: number;
  readonly defaultMinutes: number;
}
