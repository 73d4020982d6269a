import 'reflect-metadata';

export * from './words.ts';
export * from './errors.ts';
export * from './agency-input.ts';
export * from './crew-input.ts';
export * from './desk-input.ts';
export * from './engagement-input.ts';
export * from './field-input.ts';
export * from './handoff-input.ts';
export * from './learn-input.ts';
export * from './queue-input.ts';
export * from './task-input.ts';
export * from './template-input.ts';
export * from './time-input.ts';
export * from './calendar-input.ts';
export * from './workload-input.ts';
export { absencesOf, type Absence } from './rules.ts';
export type * from './answers/index.ts';
