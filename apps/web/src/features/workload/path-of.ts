import type { WorkloadTask } from '@crew/contract';

/** Where a task of the load is seen: in its plan, or, while its unit is not created yet, with its series. */
export const pathOf = ({ id, isComing, engagement }: Pick<WorkloadTask, 'id' | 'isComing' | 'engagement'>): string =>
  isComing ? `/engagements/repeating/${engagement.id}` : `/engagements/${engagement.id}?task=${id}`;
