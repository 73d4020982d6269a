import { CompleteEngagement, DropEngagement, EditEngagement, StartRound } from './engagement-input.ts';
import { EditCheck, GiveOn, HandOff, PickUp, SendBack } from './handoff-input.ts';
import type { Action } from './rights.ts';
import { AddStep, AddTask, ChangePlan, EditStep, EditTask } from './task-input.ts';
import { LogTime } from './time-input.ts';
import { PlaceInWeek } from './week-plan-input.ts';

/** What a command is done to; null for commands that name their targets in the input. */
export type CommandTarget = 'task' | 'step' | 'engagement' | 'handoff' | 'check' | null;

const command = <Target extends CommandTarget, Input extends object>(
  to: Target,
  action: Action,
  input: new () => Input,
): { readonly to: Target; readonly action: Action; readonly input: new () => Input } => ({ to, action, input });

/**
 * Changes that are made without a screen too (rules, tokens, imports, mail, bulk changes), by name:
 * their target, the right they need, and their input with its rules.
 */
export const COMMANDS = {
  'task.add': command('engagement', 'plan.edit', AddTask),
  'task.edit': command('task', 'task.work-on', EditTask),
  'step.add': command('task', 'task.work-on', AddStep),
  'step.edit': command('step', 'task.work-on', EditStep),
  'plan.change': command('engagement', 'plan.edit', ChangePlan),
  'engagement.edit': command('engagement', 'engagement.edit', EditEngagement),
  'engagement.drop': command('engagement', 'engagement.edit', DropEngagement),
  'engagement.complete': command('engagement', 'engagement.edit', CompleteEngagement),
  'round.start': command('engagement', 'plan.edit', StartRound),
  'check.edit': command('check', 'handoff.hand-off', EditCheck),
  'handoff.hand-off': command('handoff', 'handoff.hand-off', HandOff),
  'handoff.pick-up': command('handoff', 'handoff.receive', PickUp),
  'handoff.send-back': command('handoff', 'handoff.receive', SendBack),
  'handoff.give-on': command('handoff', 'handoff.receive', GiveOn),
  'time.log': command('task', 'time.edit', LogTime),
  'week-plan.place': command(null, 'week-plan.edit', PlaceInWeek),
} as const;

export type CommandName = keyof typeof COMMANDS;
export type CommandInput<Name extends CommandName> = InstanceType<(typeof COMMANDS)[Name]['input']>;
