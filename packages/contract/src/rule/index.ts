export * from './slots.ts';
export * from './facts.ts';
export * from './whens.ts';
export * from './thens.ts';
export * from './content.ts';
export * from './sentence.ts';
export * from './runs.ts';
