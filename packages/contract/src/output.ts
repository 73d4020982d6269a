import type {
  Access,
  AnchorAt,
  Baton,
  CheckKind,
  ClientHue,
  EngagementState,
  HandoffState,
  PhaseState,
  Priority,
  TaskKind,
  TaskStatus,
  TemplateKind,
  WaitingOn,
} from './words.ts';

/** What the API answers. Days are ISO days, effort is minutes, times are ISO instants. */

export interface PersonRef {
  readonly id: string;
  readonly name: string;
  readonly initials: string;
}

export interface Me {
  readonly accountId: string;
  readonly name: string;
  readonly initials: string;
  readonly access: Access;
  readonly personId: string | null;
  readonly clientName: string | null;
  readonly agencyName: string;
  readonly today: string;
  readonly csrfToken: string;
  readonly counts: { readonly handoffs: number; readonly desk: number };
}

export interface DemoPerson {
  readonly accountId: string;
  readonly name: string;
  readonly initials: string;
  readonly access: Access;
  readonly line: string;
}

export interface CrewPerson extends PersonRef {
  readonly access: Access;
  readonly roleIds: readonly string[];
  readonly roles: readonly string[];
  readonly week: readonly number[];
}

export interface Crew {
  readonly roles: readonly { readonly id: string; readonly name: string }[];
  readonly people: readonly CrewPerson[];
}

/** Somebody of the crew as those see them who look after it. */
export interface CrewMember extends CrewPerson {
  readonly email: string;
  readonly isActive: boolean;
  readonly openTasks: number;
  readonly version: number;
}

export interface ClientSummary {
  readonly id: string;
  readonly name: string;
  readonly hue: ClientHue;
  readonly isOwn: boolean;
  readonly contacts: readonly { readonly id: string; readonly name: string }[];
}

export interface ClientRef {
  readonly name: string;
  readonly hue: ClientHue;
}

export interface TrackPhase {
  readonly id: string;
  readonly name: string;
  readonly state: PhaseState;
  readonly start: string;
  readonly finish: string;
  readonly percent: number;
  readonly baton: Baton;
  readonly stateLine: string;
}

export type StandingTone = 'on-time' | 'waiting' | 'late' | 'plain';

/** Where an engagement stands, as facts; the words are made from it in one place. */
export type Standing =
  | { readonly kind: 'late'; readonly days: number; readonly finish: string }
  | { readonly kind: 'sent-back'; readonly since: string; readonly question: string }
  | { readonly kind: 'not-picked-up'; readonly since: string }
  | { readonly kind: 'waiting-on-client'; readonly title: string; readonly days: number }
  | { readonly kind: 'proposal' }
  | { readonly kind: 'overdue'; readonly tasks: number }
  | { readonly kind: 'finished' }
  | { readonly kind: 'on-time' };

export interface EngagementTrack {
  readonly id: string;
  readonly name: string;
  readonly client: ClientRef;
  readonly lead: PersonRef;
  readonly state: EngagementState;
  readonly start: string;
  readonly promise: string | null;
  readonly finish: string;
  readonly percent: number;
  readonly loggedMinutes: number;
  readonly effortMinutes: number;
  readonly overdue: number;
  readonly standing: Standing;
  readonly phases: readonly TrackPhase[];
}

export interface PlanTask {
  readonly id: string;
  readonly number: number;
  readonly phaseId: string;
  readonly title: string;
  readonly kind: TaskKind;
  readonly role: string | null;
  readonly status: TaskStatus;
  readonly waitingOn: WaitingOn | null;
  readonly waitingSince: string | null;
  readonly priority: Priority;
  readonly assignees: readonly PersonRef[];
  readonly start: string;
  readonly due: string;
  readonly days: number;
  readonly slack: number;
  readonly isCritical: boolean;
  readonly missedDays: number;
  readonly fixedDay: string | null;
  readonly estimateMinutes: number | null;
  readonly loggedMinutes: number;
  readonly stepsDone: number;
  readonly stepsAll: number;
  readonly after: readonly number[];
  readonly openPredecessors: number;
  readonly isShownToClient: boolean;
  readonly version: number;
}

export interface PlanPhase extends TrackPhase {
  readonly roleId: string | null;
  readonly role: string | null;
  readonly startedOn: string | null;
  readonly finishedOn: string | null;
  readonly handoffId: string | null;
  readonly rounds: number | null;
  readonly gate: { readonly clear: number; readonly all: number };
}

export interface EngagementPlan {
  readonly engagement: EngagementTrack & {
    readonly contact: string | null;
    readonly template: { readonly id: string; readonly name: string; readonly version: number } | null;
    readonly version: number;
  };
  readonly phases: readonly PlanPhase[];
  readonly tasks: readonly PlanTask[];
}

export interface TaskStep {
  readonly id: string;
  readonly title: string;
  readonly isDone: boolean;
}

export interface TaskTie {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly status: TaskStatus;
}

export interface HappenedLine {
  readonly id: string;
  readonly at: string;
  readonly who: string | null;
  readonly what: string;
  readonly changes: readonly { readonly field: string; readonly from: unknown; readonly to: unknown }[];
}

export interface TaskSheet extends PlanTask {
  readonly description: string;
  readonly engagement: { readonly id: string; readonly name: string; readonly client: ClientRef };
  readonly phase: string;
  readonly steps: readonly TaskStep[];
  readonly waitsFor: readonly TaskTie[];
  readonly holdsUp: readonly TaskTie[];
  readonly happened: readonly HappenedLine[];
}

export interface TaskMove {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly from: { readonly start: string; readonly due: string };
  readonly to: { readonly start: string; readonly due: string };
}

/** What an edit does to the plan around it. */
export interface PlanEffect {
  readonly moves: readonly TaskMove[];
  readonly newConflicts: readonly { readonly id: string; readonly title: string; readonly days: number }[];
  readonly finish: { readonly from: string; readonly to: string };
  readonly promise: string | null;
  readonly overloads: readonly { readonly person: PersonRef; readonly minutes: number; readonly firstDay: string }[];
}

/** `effect` is null for a status alone: the plan behind it follows a moment later and is announced. */
export interface TaskEdited {
  readonly task: TaskSheet;
  readonly effect: PlanEffect | null;
}

export interface TemplateSummary {
  readonly id: string;
  readonly kind: TemplateKind;
  readonly name: string;
  readonly description: string;
  readonly version: number;
  readonly phases: readonly { readonly name: string; readonly tasks: number; readonly days: number }[];
  readonly taskCount: number;
  readonly effortMinutes: number;
  readonly usedTimes: number;
}

export interface TemplateTaskView {
  readonly id: string;
  readonly phaseId: string;
  readonly title: string;
  readonly kind: TaskKind;
  readonly roleId: string | null;
  readonly role: string | null;
  readonly estimateMinutes: number | null;
  readonly days: number;
  readonly anchor: { readonly at: AnchorAt; readonly offset: number };
  readonly after: readonly { readonly taskId: string; readonly title: string; readonly type: string; readonly lag: number }[];
  readonly steps: readonly string[];
  readonly start: string;
  readonly finish: string;
  readonly slack: number;
}

export interface TemplatePhaseView {
  readonly id: string;
  readonly name: string;
  readonly role: string | null;
  readonly roleId: string | null;
  readonly stateLine: string;
  readonly rounds: number | null;
  readonly checks: readonly { readonly kind: CheckKind; readonly text: string }[];
  readonly start: string;
  readonly finish: string;
  readonly workingDays: number;
}

/** One person proposed for a role, with the reason as data. */
export interface Suggestion {
  readonly person: PersonRef;
  readonly freeMinutes: number;
  readonly neededMinutes: number;
  readonly pastEngagements: number;
  readonly isFull: boolean;
}

export interface RoleNeed {
  readonly roleId: string;
  readonly role: string;
  readonly tasks: number;
  readonly minutes: number;
  readonly chosen: PersonRef | null;
  readonly suggestions: readonly Suggestion[];
}

/** A template laid on the real calendar: nothing is saved. */
export interface DryRun {
  readonly template: {
    readonly id: string;
    readonly kind: TemplateKind;
    readonly name: string;
    readonly description: string;
    readonly version: number;
    readonly usedTimes: number;
  };
  readonly start: string;
  readonly finish: string;
  readonly promise: string | null;
  readonly closedDays: number;
  readonly effortMinutes: number;
  readonly phases: readonly TemplatePhaseView[];
  readonly tasks: readonly TemplateTaskView[];
  readonly conflicts: readonly { readonly taskId: string; readonly title: string; readonly days: number }[];
  readonly roles: readonly RoleNeed[];
  readonly overloads: readonly {
    readonly person: PersonRef;
    readonly minutes: number;
    readonly firstDay: string;
    readonly percent: number;
  }[];
}

export interface GateCheckView {
  readonly id: string;
  readonly kind: CheckKind;
  readonly text: string;
  readonly isClear: boolean;
  readonly missing: string | null;
  readonly clearedBy: string | null;
}

export interface HandoffLine {
  readonly id: string;
  readonly version: number;
  readonly state: HandoffState;
  readonly baton: Baton;
  readonly engagement: { readonly id: string; readonly name: string; readonly client: ClientRef };
  readonly from: { readonly id: string; readonly name: string; readonly finish: string };
  readonly to: { readonly id: string; readonly name: string } | null;
  readonly toRole: string | null;
  readonly giver: PersonRef | null;
  readonly receiver: PersonRef | null;
  readonly since: string | null;
  readonly question: string | null;
  readonly checks: readonly { readonly isClear: boolean }[];
  readonly missing: readonly string[];
  readonly canPickUp: boolean;
  readonly canHandOff: boolean;
}

export interface HandoffBoard {
  readonly lines: readonly HandoffLine[];
  readonly pickUpMinutes: { readonly thisMonth: number | null; readonly lastMonth: number | null };
}

export interface HandoffTurn {
  readonly kind: 'handed-off' | 'picked-up' | 'sent-back' | 'given-on';
  readonly at: string;
  readonly who: PersonRef;
  readonly words: string;
}

/** The packet and everything around it. */
export interface HandoffSheet extends HandoffLine {
  readonly gate: readonly GateCheckView[];
  readonly words: string;
  readonly turns: readonly HandoffTurn[];
  readonly doneTasks: readonly {
    readonly id: string;
    readonly number: number;
    readonly title: string;
    readonly finish: string;
    readonly who: readonly string[];
  }[];
  readonly openTasks: readonly { readonly id: string; readonly number: number; readonly title: string; readonly status: TaskStatus }[];
  readonly involved: readonly { readonly person: PersonRef; readonly minutes: number }[];
  readonly onPickUp: {
    readonly start: string;
    readonly finish: string;
    readonly tasks: number;
    readonly people: readonly { readonly person: PersonRef; readonly tasks: number; readonly minutes: number }[];
    readonly unassigned: number;
  } | null;
  readonly receivers: readonly PersonRef[];
}

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

export interface DeskTask {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly status: TaskStatus;
  readonly engagement: { readonly id: string; readonly name: string; readonly client: ClientRef };
  readonly phase: string;
  readonly start: string;
  readonly due: string;
  readonly remainingMinutes: number;
  readonly estimateMinutes: number | null;
  readonly loggedMinutes: number;
  readonly waitingFor: string | null;
  readonly since: string | null;
  readonly holdsUp: number;
  readonly version: number;
}

export interface DeskDay {
  readonly date: string;
  readonly capacity: number;
  readonly load: number;
  readonly over: number;
  readonly tasks: readonly {
    readonly id: string;
    readonly title: string;
    readonly engagement: string;
    readonly hue: ClientHue;
    readonly minutes: number;
    readonly isDue: boolean;
  }[];
}

export interface Desk {
  readonly person: PersonRef;
  readonly now: DeskTask | null;
  readonly overdue: readonly DeskTask[];
  readonly ready: readonly DeskTask[];
  readonly waiting: readonly DeskTask[];
  readonly fresh: readonly DeskTask[];
  readonly handoffs: readonly HandoffLine[];
  readonly days: readonly DeskDay[];
  readonly week: { readonly plannedMinutes: number; readonly capacityMinutes: number; readonly loggedMinutes: number };
}

/** All a client's contact gets of an engagement: nothing internal is in it. */
export interface ClientEngagement {
  readonly id: string;
  readonly name: string;
  readonly promise: string | null;
  readonly phases: readonly { readonly name: string; readonly state: PhaseState; readonly stateLine: string }[];
  readonly tasks: readonly {
    readonly id: string;
    readonly title: string;
    readonly isOurs: boolean;
    readonly status: TaskStatus;
    readonly due: string;
  }[];
}

/** Said on the stream of changes; null when which engagement is not told. */
export interface ChangeNotice {
  readonly engagementId: string | null;
}
