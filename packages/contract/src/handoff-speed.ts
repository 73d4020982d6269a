/** What handoff times are grouped by: the phases of one template, the roles that own phases, or people. */
export const SPEED_BY = ['phase', 'role', 'person'] as const;
export type SpeedBy = (typeof SPEED_BY)[number];

export const SPEED_MONTHS = [3, 6, 12] as const;
export type SpeedMonths = (typeof SPEED_MONTHS)[number];
