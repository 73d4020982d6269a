/**
 * What rules and notices may ask of an event, as SQL over `v` (engagement_id, subject,
 * subject_id) and the joins below; see `EventFacts` in the contract.
 */
export const EVENT_FACTS = `
  jsonb_strip_nulls(jsonb_build_object(
    'engagement', e.id, 'engagementName', e.name, 'leadId', e.lead_id, 'template', e.template_id, 'client', c.name, 'clientId', c.id,
    'phase', p.name, 'round', p.round, 'role', r.name, 'roleId', r.id, 'person', coalesce(q.name, recipient.name, o.name), 'personId', coalesce(q.id, recipient.id, o.id),
    'task', t.title, 'taskKind', t.kind, 'status', coalesce(t.status, h.state), 'priority', t.priority, 'labels', to_jsonb(nullif(t.labels, '{}')),
    'percent', s.percent, 'daysLate', s.late_days,
    'hoursUsed', round(s.logged_minutes / 60.0, 1), 'hoursPlanned', round(s.effort_minutes / 60.0, 1),
    'name', coalesce(k.name, n.name, o.name, d.name, f.name)))`;

export const EVENT_FACTS_FROM = `
  LEFT JOIN engagement e ON e.id = v.engagement_id
  LEFT JOIN client c ON c.id = e.client_id
  LEFT JOIN engagement_summary s ON s.engagement_id = e.id
  LEFT JOIN task t ON v.subject = 'task' AND t.id = v.subject_id
  LEFT JOIN handoff h ON v.subject = 'handoff' AND h.id = v.subject_id
  LEFT JOIN person recipient ON recipient.id = h.receiver_id
  LEFT JOIN phase p ON p.id = coalesce(t.phase_id, h.from_phase_id, CASE WHEN v.subject = 'phase' THEN v.subject_id END)
  LEFT JOIN role r ON r.id = coalesce(t.role_id, p.role_id)
  LEFT JOIN LATERAL (SELECT w.name, w.id FROM task_assignee a JOIN person w ON w.id = a.person_id WHERE a.task_id = t.id ORDER BY a.position LIMIT 1) q ON true
  LEFT JOIN template k ON v.subject = 'template' AND k.id = v.subject_id
  LEFT JOIN engagement_series n ON v.subject = 'series' AND n.id = v.subject_id
  LEFT JOIN person o ON v.subject = 'person' AND o.id = v.subject_id
  LEFT JOIN client d ON v.subject = 'client' AND d.id = v.subject_id
  LEFT JOIN custom_field f ON v.subject = 'field' AND f.id = v.subject_id`;
