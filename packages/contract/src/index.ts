import 'reflect-metadata';

export * from './words.ts';
export * from './errors.ts';
export * from './input.ts';
export * from './template-input.ts';
export * from './calendar-input.ts';
export { absencesOf, type Absence } from './rules.ts';
export type * from './answers/index.ts';
