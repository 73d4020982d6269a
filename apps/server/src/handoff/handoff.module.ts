import type { Area } from '../platform/area.ts';
import { GiveWord } from './give-word.ts';
import { HandoffController } from './handoff.controller.ts';
import { GateCheck, Handoff } from './handoff.entity.ts';
import { HandoffRepository } from './handoff.repository.ts';
import { PassHandoff } from './pass-handoff.ts';
import { ReadHandoff } from './read-handoff.ts';

export const handoff: Area = {
  controllers: [HandoffController],
  providers: [PassHandoff, ReadHandoff, GiveWord, HandoffRepository],
  entities: [Handoff, GateCheck],
};
