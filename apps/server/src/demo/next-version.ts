import { randomUUID } from 'node:crypto';
import type { INestApplicationContext } from '@nestjs/common';
import type { TemplateContent, TemplateTask } from '@crew/core';
import type { SaveTemplate, TemplateContentView } from '@crew/contract';
import type { Who } from '../platform/rights.ts';
import { KeepTemplate } from '../template/keep-template.ts';

/** What the studio learned from its last signs: version 2, while engagements keep running on version 1. */
export async function learnFromSigns(app: INestApplicationContext, who: Who, templateId: string): Promise<void> {
  const keeping = app.get(KeepTemplate);
  const view = await keeping.read(who, templateId);
  const content = lookedAtByNight(view.content);
  const saved: TemplateContentView = await keeping.save(who, templateId, {
    revision: view.revision,
    content: content as SaveTemplate['content'],
  });
  await keeping.keep(who, templateId, { revision: saved.revision, note: 'Signs are looked at by night before they are paid' });
}

const named = (content: TemplateContent, title: string): TemplateTask => content.tasks.find((task) => task.title === title) as TemplateTask;

/** A phase comes between setting and payment, setting takes a day longer, and each sign is photographed. */
function lookedAtByNight(content: TemplateContent): TemplateContent {
  const [setting, payment] = content.phases.slice(-2) as [TemplateContent['phases'][number], TemplateContent['phases'][number]];
  const set = named(content, 'Signs set');
  const phaseId = randomUUID();
  const night = {
    ...{ id: phaseId, name: 'Night check', roleId: setting.roleId, stateLine: 'Signs being looked at after dark', rounds: null },
    ...{
      afterPhaseId: setting.id,
      afterEdge: 'finish' as const,
      afterLag: 0,
      checks: [{ kind: 'tasks-done', text: 'Every sign read by torch' }],
    },
  };
  const photograph: TemplateTask = {
    ...set,
    ...{
      id: randomUUID(),
      title: 'Photograph each sign',
      roleId: named(content, 'Photographs of each place').roleId,
      estimateMinutes: 180,
      days: 1,
    },
    after: [{ taskId: set.id, type: 'FS', lag: 0 }],
  };
  const walk: TemplateTask = {
    ...set,
    ...{
      id: randomUUID(),
      phaseId,
      title: 'Walk the signs after dark',
      estimateMinutes: 150,
      days: 1,
      after: [],
      steps: ['Torch', 'Car headlights'],
    },
  };
  return {
    ...content,
    phases: [...content.phases.slice(0, -1), night, { ...payment, afterPhaseId: phaseId }],
    tasks: [...content.tasks.map((task) => (task.id === set.id ? { ...task, days: 5, estimateMinutes: 1920 } : task)), photograph, walk],
  };
}
