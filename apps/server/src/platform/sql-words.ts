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

/** Whether a person holds a role now; a role counts only as long as it is held. */
export const holdsRole = (personId: string, roleId: string): string =>
  `EXISTS (SELECT 1 FROM person_role held JOIN person holder ON holder.id = held.person_id AND holder.is_active
     WHERE held.person_id = ${personId} AND held.role_id = ${roleId})`;

/** What a phase says of where the client stands; one that repeats says in which of its rounds it is. */
export const stateLineOf = (phase: string): string =>
  `${phase}.state_line || CASE WHEN ${phase}.rounds IS NULL AND ${phase}.round = 1 OR ${phase}.state = 'ahead' THEN ''
     WHEN ${phase}.round <= ${phase}.rounds THEN ', round ' || ${phase}.round || ' of ' || ${phase}.rounds ELSE ', round ' || ${phase}.round END`;

/** The ways out of task t that lead somewhere still there, as rows of `WayOut`; none once its engagement is over. */
export const WAYS_OF_TASK = `
  SELECT json_build_object('id', w->>'id', 'taskId', t.id, 'ending', w->>'ending', 'reason', w->>'reason',
    'to', CASE WHEN o.id IS NULL THEN NULL ELSE json_build_object('id', o.id, 'number', o.number, 'title', o.title) END) AS way, t.number AS place
  FROM jsonb_array_elements(t.ways) w LEFT JOIN task o ON o.id = (w->>'toId')::uuid AND o.engagement_id = t.engagement_id
  WHERE (o.id IS NOT NULL OR w->>'ending' IS NOT NULL)
    AND EXISTS (SELECT 1 FROM engagement whole WHERE whole.id = t.engagement_id AND whole.state IN ('open', 'proposal'))`;

/** The working week and closed days of an agency, as the core reads them. */
export const calendarOf = (agency: string): string =>
  `json_build_object('week', ${agency}.week, 'closed',
     coalesce((SELECT json_agg(closed.day ORDER BY closed.day) FROM closed_day closed WHERE closed.agency_id = ${agency}.id), '[]'))`;

/** When somebody is away, as far as a condition on alias `o` says, as the core reads it. */
export const timeOffOf = (person: string, condition: string): string =>
  `coalesce((SELECT json_agg(json_strip_nulls(json_build_object('from', o.from_day, 'to', o.to_day, 'minutes', o.minutes)) ORDER BY o.from_day, o.id)
     FROM time_off o WHERE o.person_id = ${person}.id AND ${condition}), '[]')`;

/**
 * Who acts for somebody on a day (ids and the day as SQL): while they are away for the whole of it their
 * stand-in, and without one `otherwise`; null while they are there.
 */
export const standInFor = (personId: string, { otherwise, day }: { readonly otherwise: string; readonly day: string }): string =>
  `(SELECT coalesce((SELECT acting.id FROM person acting WHERE acting.id = gone.stand_in_id AND acting.is_active), ${otherwise})
     FROM person gone WHERE gone.id = ${personId} AND EXISTS (SELECT 1 FROM time_off away
       WHERE away.person_id = gone.id AND away.minutes IS NULL AND ${day} BETWEEN away.from_day AND away.to_day))`;

/** Ids of the handoffs that wait for somebody on a day (both as SQL): to pick up, to answer or to hand off, their own and those of whom they stand in for. */
export const handoffsWaitingFor = (personId: string, day: string): string => {
  const open = `FROM handoff h JOIN engagement e ON e.id = h.engagement_id AND e.state IN ('proposal', 'open')`;
  return `SELECT h.id ${open} WHERE h.state = 'handed-off' AND h.receiver_id = ${personId}
    UNION SELECT h.id ${open} WHERE h.state = 'sent-back' AND h.giver_id = ${personId}
    UNION SELECT h.id ${open} WHERE h.state = 'getting-ready' AND ${personId} = ANY(h.ready_for_ids)
    UNION SELECT h.id ${open} WHERE h.state = 'handed-off' AND ${standInFor('h.receiver_id', { otherwise: 'e.lead_id', day })} = ${personId}
    UNION SELECT h.id ${open} WHERE h.state = 'sent-back' AND ${standInFor('h.giver_id', { otherwise: 'e.lead_id', day })} = ${personId}`;
};

/** Whether a task is still to be done. The indexes of open tasks say it in the same words. */
export const isOpen = (task: string): string => `${task}.status NOT IN ('done', 'dropped')`;

/** Whether a task takes hours of the crew: the client's own and milestones do not, and groups only in their parts. */
export const isWork = (task: string): string => `NOT ${task}.is_group AND ${task}.kind NOT IN ('client', 'milestone')`;

/**
 * The assignees of a task as `what` of alias a (the assignment) and q (the person), in their order. Each person is
 * looked up by id: with a plain join the planner reads the whole crew for every task of a list.
 */
export const assigneesOf = (task: string, what: string, and = ''): string =>
  `coalesce((SELECT json_agg(${what} ORDER BY a.position) FROM task_assignee a
    CROSS JOIN LATERAL (SELECT w.* FROM person w WHERE w.id = a.person_id OFFSET 0) q WHERE a.task_id = ${task}.id${and}), '[]')`;

/** Whether a contact is one of a client: its main one, or one of the further ones. */
export const isContactOf = (contact: string, client: string): string =>
  `(${contact}.client_id = ${client} OR EXISTS (SELECT 1 FROM contact_client other WHERE other.contact_id = ${contact}.id AND other.client_id = ${client}))`;
