import { Body, Controller, Delete, Get, HttpCode, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { RestoreTimer, StartTimer, StopTimer, type TimerState, type TimerStopped } from '@crew/contract';
import { Answers } from '../platform/answers.ts';
import { Allow, Caller, type Who } from '../platform/rights.ts';
import { KeepTimer } from './keep-timer.ts';

/** One's own timer; nobody else's. */
@ApiTags('time')
@Controller('timer')
@Allow('timer.use')
export class TimerController {
  private readonly keeping: KeepTimer;
  constructor(keeping: KeepTimer) {
    this.keeping = keeping;
  }

  @Get()
  @Answers('TimerState')
  read(@Caller() who: Who): Promise<TimerState> {
    return this.keeping.read(who);
  }

  /** Starts it on a task, or lets it run on; one on another task is stopped and logged. */
  @Post()
  @Answers('TimerState')
  @HttpCode(200)
  start(@Caller() who: Who, @Body() input: StartTimer): Promise<TimerState> {
    return this.keeping.start(who, input.taskId);
  }

  @Post('pause')
  @Answers('TimerState')
  @HttpCode(200)
  pause(@Caller() who: Who): Promise<TimerState> {
    return this.keeping.pause(who);
  }

  /** Logs what it counted. 409 with `details.timer` when it ran past midnight or over ten hours and no minutes are given. */
  @Post('stop')
  @Answers('TimerStopped')
  @HttpCode(200)
  stop(@Caller() who: Who, @Body() input: StopTimer): Promise<TimerStopped> {
    return this.keeping.stop(who, input);
  }

  /** Undoes a stop, with what its answer gave: the logged time is removed, and the timer is as it was. */
  @Post('restore')
  @Answers('TimerState')
  @HttpCode(200)
  restore(@Caller() who: Who, @Body() input: RestoreTimer): Promise<TimerState> {
    return this.keeping.restore(who, input);
  }

  /** Discards the timer; nothing is logged. */
  @Delete()
  @HttpCode(204)
  discard(@Caller() who: Who): Promise<void> {
    return this.keeping.discard(who);
  }
}
