/** No id of a caller begins like this. */
const JOINT = '\u0000';

/** The joint before all parts of a group, and the one after them. */
export const beginOf = (group: string): string => `${JOINT}begin ${group}`;
export const endOf = (group: string): string => `${JOINT}end ${group}`;

/** Whether a task of the network is a joint of a group rather than a task somebody gave. */
export const isJoint = (task: { readonly id: string }): boolean => task.id.startsWith(JOINT);

/** The group a joint stands for. */
export const groupOf = (joint: string): string => joint.slice(joint.indexOf(' ') + 1);
