import { Injectable } from '@nestjs/common';
import type { ThenKind } from '@crew/contract';
import { StartRound } from '../../engagement/start-round.ts';
import { PassHandoff } from '../../handoff/pass-handoff.ts';
import { ChangePlan } from '../../plan-change/change-plan.ts';
import { AddFromLibrary } from '../../template/add-from-library.ts';
import { mailClient, mailPeople } from './mails.ts';
import { callWebhook } from './webhooks.ts';
import { readyHandoff, tell } from './people.ts';
import { PhaseEffects } from './phases.ts';
import { TaskEffects } from './tasks.ts';
import type { CarryOutEffect } from './types.ts';

/** Who carries out each kind of effect: the same list as `THENS` in the contract. */
@Injectable()
export class Effects {
  private readonly byKind: Readonly<Record<ThenKind, CarryOutEffect>>;
  constructor(plans: ChangePlan, passing: PassHandoff, rounds: StartRound, library: AddFromLibrary) {
    const tasks = new TaskEffects(plans, library);
    const phases = new PhaseEffects(passing, rounds, tasks);
    this.byKind = {
      tell,
      mail: mailPeople,
      'mail-client': mailClient,
      'call-webhook': callWebhook,
      assign: tasks.assign,
      'assign-phase': tasks.assignPhase,
      'make-task': tasks.makeTask,
      'add-saved-task': tasks.addSavedTask,
      'ask-decision': tasks.askDecision,
      'move-task': tasks.moveTask,
      'move-phase': tasks.movePhase,
      'set-status': tasks.setStatus,
      'set-priority': tasks.setPriority,
      'add-label': tasks.addLabel,
      'set-field': tasks.setField,
      'ready-handoff': readyHandoff,
      'hand-off': phases.handOff,
      'start-phase': phases.startPhase,
      'start-round': phases.startRound,
    };
  }

  of(kind: ThenKind): CarryOutEffect {
    return this.byKind[kind];
  }
}
