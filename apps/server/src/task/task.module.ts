import type { Area } from '../platform/area.ts';
import { AddTask } from './add-task.ts';
import { ChangeStatus } from './change-status.ts';
import { EditTask } from './edit-task.ts';
import { ReadTaskPage } from './query/read-task-page.ts';
import { TaskParts } from './task-parts.ts';
import { TaskController } from './task.controller.ts';
import { Step, Task, TaskAssignee, TaskLink } from './task.entity.ts';
import { TaskRepository } from './task.repository.ts';

export const task: Area = {
  controllers: [TaskController],
  providers: [ChangeStatus, AddTask, EditTask, TaskParts, ReadTaskPage, TaskRepository],
  entities: [Task, TaskAssignee, Step, TaskLink],
};
