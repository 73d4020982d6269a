/** How far a run of a rule is: `held` did nothing, for a reason. */
export const RUN_STATE = ['waiting', 'done', 'failed', 'held', 'undone'] as const;
export type RunState = (typeof RUN_STATE)[number];

/** How far one effect is: `nothing` found nothing to do. */
export const EFFECT_STATE = ['waiting', 'done', 'nothing', 'failed', 'undone'] as const;
export type EffectState = (typeof EFFECT_STATE)[number];
