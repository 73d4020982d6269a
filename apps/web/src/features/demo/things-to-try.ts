import type { Access } from '@crew/contract';

/** Something worth trying in the demo: what to do, and where; null on the page itself. */
export interface ThingToTry {
  readonly text: string;
  readonly to: string | null;
}

const MEMBER: readonly ThingToTry[] = [
  { text: 'Start the timer on a task, then mark the task as done.', to: '/desk' },
  { text: 'Drag a task to another day of your week, and undo it with u.', to: '/desk' },
  { text: 'See whose turn it is, and hand off or pick up a phase.', to: '/handoffs' },
  { text: 'Fill in your timesheet for last week.', to: '/time' },
  { text: 'Open a template and look at its map.', to: '/templates' },
];

/** Five for each kind of access. */
export const THINGS_TO_TRY: Readonly<Record<Access, readonly ThingToTry[]>> = {
  lead: [
    { text: 'Open an engagement, move a task by two days, and see what that does before you apply it.', to: '/engagements' },
    { text: 'Find who has more work than hours this week, and reassign a task.', to: '/workload' },
    { text: 'See which handoff waits longest, and why.', to: '/handoffs' },
    { text: 'Start an engagement from a template: every date is shown before anything is made.', to: '/engagements/start' },
    { text: 'Change a rule that runs by itself, and preview what it would have done.', to: '/handoffs/rules' },
  ],
  owner: [
    { text: 'Close the public holidays of next year and see what moves.', to: '/calendar' },
    { text: 'Invite somebody and read the mail they get.', to: '/crew' },
    { text: 'See how fast work is handed on between roles.', to: '/handoffs/speed' },
    { text: 'Read what happened last week, and undo a part of it.', to: '/history' },
    { text: 'Look at who signed in, and ask your leads for a second factor.', to: '/settings/security' },
  ],
  member: MEMBER,
  freelancer: [
    { text: 'See that only your own tasks are here.', to: '/desk' },
    { text: 'Start the timer on a task, then mark the task as done.', to: '/desk' },
    { text: 'Say when you are away: the plan follows.', to: '/calendar' },
    { text: 'Fill in your timesheet for last week.', to: '/time' },
    { text: 'Choose which mails and notices you get.', to: '/mail' },
  ],
  client: [
    { text: 'See what the studio needs from you, and by when: it always comes first.', to: null },
    { text: 'Follow the phases from left to right: the one in bold is under way.', to: null },
    { text: 'Find the day the engagement is promised for.', to: null },
    { text: 'Sign in as a lead in a second browser, mark one of your tasks as done, and watch it move here.', to: null },
    { text: 'Look for hours, prices or internal notes: what is not for you is not sent.', to: null },
  ],
};
