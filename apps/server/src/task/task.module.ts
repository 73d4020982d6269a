import { commandBy, type Area } from '../platform/area.ts';
import { AddTask } from './add-task.ts';
import { ChangeStatus } from './change-status.ts';
import { EditTask } from './edit-task.ts';
import { ReadTaskPage } from './query/read-task-page.ts';
import { TaskParts } from './task-parts.ts';
import { TaskController } from './task.controller.ts';
import { Step, Task, TaskAssignee, TaskDependency } from './task.entity.ts';
import { TaskRepository } from './task.repository.ts';

export const task: Area = {
  controllers: [TaskController],
  providers: [ChangeStatus, AddTask, EditTask, TaskParts, ReadTaskPage, TaskRepository],
  entities: [Task, TaskAssignee, Step, TaskDependency],
  commands: [
    commandBy({ name: 'task.add', by: AddTask, run: (adding, who, { target, input }) => adding.run(who, target, input) }),
    commandBy({ name: 'task.edit', by: EditTask, run: (editing, who, { target, input }) => editing.run(who, target, input) }),
    commandBy({ name: 'step.add', by: TaskParts, run: (parts, who, { target, input }) => parts.addStep(who, target, input.title) }),
    commandBy({ name: 'step.edit', by: TaskParts, run: (parts, who, { target, input }) => parts.editStep(who, target, input.isDone) }),
  ],
};
