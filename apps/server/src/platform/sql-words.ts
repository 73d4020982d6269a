/* What statements say often. Tables have the aliases given, or named here. */

/** Somebody of the crew as everybody sees them. */
export const PERSON = (person: string): string =>
  `json_build_object('id', ${person}.id, 'name', ${person}.name, 'initials', ${person}.initials)`;

/** As `PERSON`, for one that may be missing. */
export const PERSON_OR_NULL = (person: string): string => `CASE WHEN ${person}.id IS NULL THEN NULL ELSE ${PERSON(person)} END`;

/** Client c. */
export const CLIENT = `json_build_object('name', c.name, 'hue', c.hue)`;

/** Engagement e with its client c. */
export const ENGAGEMENT = `json_build_object('id', e.id, 'name', e.name, 'client', ${CLIENT})`;

/** As `ENGAGEMENT`, where the colour of its client is enough. */
export const ENGAGEMENT_IN_COLOUR = `json_build_object('id', e.id, 'name', e.name, 'hue', c.hue)`;

/** The working week and closed days of an agency, as the core reads them. */
export const calendarOf = (agency: string): string =>
  `json_build_object('week', ${agency}.week, 'closed',
     coalesce((SELECT json_agg(closed.day ORDER BY closed.day) FROM closed_day closed WHERE closed.agency_id = ${agency}.id), '[]'))`;

/** When somebody is away, as far as a condition on alias `o` says, as the core reads it. */
export const timeOffOf = (person: string, condition: string): string =>
  `coalesce((SELECT json_agg(json_strip_nulls(json_build_object('from', o.from_day, 'to', o.to_day, 'minutes', o.minutes)) ORDER BY o.from_day, o.id)
     FROM time_off o WHERE o.person_id = ${person}.id AND ${condition}), '[]')`;

/** Whether a task is still to be done. The indexes of open tasks say it in the same words. */
export const isOpen = (task: string): string => `${task}.status NOT IN ('done', 'dropped')`;

/** Whether a task takes hours of the crew: the client's own and milestones do not, and groups only in their parts. */
export const isWork = (task: string): string => `NOT ${task}.is_group AND ${task}.kind NOT IN ('client', 'milestone')`;
