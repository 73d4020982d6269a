import type { TemplateContent } from '@crew/core';
import { addNext, addPhase, addTask, editTask, type Edit } from '../src/features/template/content.ts';

const EMPTY: TemplateContent = { name: 'Trail', description: '', phases: [], tasks: [], ways: [] };

/** A small trail: call → offer → the client’s answer in a first phase, writing in a second; with more made of it. */
export const trailWith = (...more: readonly Edit[]): TemplateContent =>
  [
    addPhase('p', 'Proposal'),
    addPhase('s', 'Script'),
    addTask('call', { phaseId: 'p', title: 'First call', roleId: 'manager' }),
    addNext('offer', 'call', { title: 'Send proposal' }),
    addNext('answer', 'offer', { title: 'Client answers' }),
    editTask('answer', { kind: 'client', roleId: null }),
    addTask('write', { phaseId: 's', title: 'Write', roleId: 'writer' }),
    ...more,
  ].reduce((content, edit) => edit(content), EMPTY);
