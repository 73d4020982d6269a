import type { TemplateTask } from './types.ts';

/** A task of a template that presets nothing but its title: a day of work that starts with its phase. */
export const blankTask = (task: Pick<TemplateTask, 'id' | 'phaseId' | 'title'>): TemplateTask => ({
  ...task,
  parentId: null,
  description: '',
  kind: 'work',
  roleId: null,
  personId: null,
  helperRoleIds: [],
  helperPersonIds: [],
  estimateMinutes: null,
  days: 1,
  anchor: { at: 'phase-start', offset: 0 },
  after: [],
  steps: [],
  priority: 'normal',
  labels: [],
  deliverable: null,
  pageLinks: [],
  files: [],
  customFields: [],
  outside: null,
  isShownToClient: false,
  isChargeable: true,
});
