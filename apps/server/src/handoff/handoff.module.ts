import { commandBy, type Area } from '../platform/area.ts';
import { CompleteEngagement } from './complete-engagement.ts';
import { GiveWord } from './give-word.ts';
import { GATE_EVENTS } from '@crew/contract';
import { HandoffController } from './handoff.controller.ts';
import { GateCheck, Handoff } from './handoff.entity.ts';
import { HandoffRepository } from './handoff.repository.ts';
import { JudgeGates } from './judge-gates.ts';
import { PassHandoff } from './pass-handoff.ts';
import { ReadHandoff } from './read-handoff.ts';
import { ReadSpeed } from './read-speed.ts';
import { SpeedController } from './speed.controller.ts';

export const handoff: Area = {
  // The addresses of the speed come before those of one handoff.
  controllers: [SpeedController, HandoffController],
  providers: [CompleteEngagement, PassHandoff, ReadHandoff, GiveWord, HandoffRepository, JudgeGates, ReadSpeed],
  entities: [Handoff, GateCheck],
  followers: [{ kinds: GATE_EVENTS, by: JudgeGates }],
  commands: [
    commandBy({
      name: 'engagement.complete',
      by: CompleteEngagement,
      run: (completing, who, { target, input }) => completing.run(who, target, input),
    }),
    commandBy({ name: 'check.edit', by: GiveWord, run: (words, who, { target, input }) => words.run(who, target, input.isClear) }),
    commandBy({ name: 'handoff.hand-off', by: PassHandoff, run: (passing, who, { target, input }) => passing.handOff(who, target, input) }),
    commandBy({ name: 'handoff.pick-up', by: PassHandoff, run: (passing, who, { target, input }) => passing.pickUp(who, target, input) }),
    commandBy({
      name: 'handoff.send-back',
      by: PassHandoff,
      run: (passing, who, { target, input }) => passing.sendBack(who, target, input),
    }),
    commandBy({ name: 'handoff.give-on', by: PassHandoff, run: (passing, who, { target, input }) => passing.giveOn(who, target, input) }),
  ],
};
