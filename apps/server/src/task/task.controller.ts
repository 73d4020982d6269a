import { Body, Controller, Get, HttpCode, Param, Patch, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import {
  AddStep,
  AddTask as AddInput,
  EditStep,
  EditTask as EditInput,
  type PlanEffect,
  type TaskEdited,
  type TaskPage,
  TaskQuery,
  type TaskSheet,
} from '@crew/contract';
import { Database } from '../platform/database.ts';
import { requireFound } from '../platform/refusal.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { AddTask } from './add-task.ts';
import { EditTask } from './edit-task.ts';
import { ReadTaskPage } from './query/read-task-page.ts';
import { TaskParts } from './task-parts.ts';
import { TaskRepository } from './task.repository.ts';
import { PathId } from '../platform/query-pipes.ts';
import { Answers } from '../platform/answers.ts';

@ApiTags('tasks')
@Controller()
export class TaskController {
  private readonly database: Database;
  private readonly tasks: TaskRepository;
  private readonly editing: EditTask;
  private readonly adding: AddTask;
  private readonly parts: TaskParts;
  private readonly pages: ReadTaskPage;

  constructor(database: Database, tasks: TaskRepository, editing: EditTask, adding: AddTask, parts: TaskParts, pages: ReadTaskPage) {
    this.database = database;
    this.tasks = tasks;
    this.editing = editing;
    this.adding = adding;
    this.parts = parts;
    this.pages = pages;
  }

  /** Tasks of any engagements that match a filter, page by page, with sums over all of them and by what they are counted by. Changes nothing. */
  @Post('tasks/query')
  @Answers('TaskPage')
  @HttpCode(200)
  @Allow('task.read')
  query(@Caller() who: Who, @Body() query: TaskQuery): Promise<TaskPage> {
    return this.pages.run(who, query);
  }

  @Get('tasks/:id')
  @Answers('TaskSheet')
  @Allow('task.read')
  async read(@Caller() who: Who, @Param('id', PathId) id: string): Promise<TaskSheet> {
    return requireFound(await this.tasks.findSheet(this.database.manager, who, id), 'task');
  }

  /** Changes fields in place; answers the task and what moved. 409 with `details.current` when the version is stale. */
  @Patch('tasks/:id')
  @Answers('TaskEdited')
  @Allow('task.work-on')
  edit(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditInput): Promise<TaskEdited> {
    return this.editing.run(who, id, input);
  }

  /** What an edit would move, clash with and overload. Saves nothing. */
  @Post('tasks/:id/preview')
  @Answers('PlanEffect')
  @HttpCode(200)
  @Allow('plan.edit')
  preview(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditInput): Promise<PlanEffect> {
    return this.editing.preview(who, id, input);
  }

  /** Adds a task; answers it with what that moved, and the id that undoes it. */
  @Post('engagements/:id/tasks')
  @Answers('TaskEdited')
  @Allow('plan.edit')
  add(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: AddInput): Promise<TaskEdited> {
    return this.adding.run(who, id, input);
  }

  /** What adding a task would move and overload. Saves nothing. */
  @Post('engagements/:id/tasks/preview')
  @Answers('PlanEffect')
  @HttpCode(200)
  @Allow('plan.edit')
  previewAdd(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: AddInput): Promise<PlanEffect> {
    return this.adding.preview(who, id, input);
  }

  @Post('tasks/:id/steps')
  @Answers('TaskSheet')
  @Allow('task.work-on')
  addStep(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: AddStep): Promise<TaskSheet> {
    return this.parts.addStep(who, id, input.title);
  }

  @Patch('steps/:id')
  @Answers('TaskSheet')
  @Allow('task.work-on')
  editStep(@Caller() who: Who, @Param('id', PathId) id: string, @Body() input: EditStep): Promise<TaskSheet> {
    return this.parts.editStep(who, id, input.isDone);
  }
}
