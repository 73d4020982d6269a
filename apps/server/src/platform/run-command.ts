import { Inject, Injectable } from '@nestjs/common';
import { ModuleRef } from '@nestjs/core';
import { COMMANDS, type CommandInput, type CommandName } from '@crew/contract';
import { AREA_COMMANDS, type AreaCommand } from './area.ts';
import { requireCan, type Who } from './rights.ts';
import { inputPipe } from './validation.ts';

/** A command as somebody gives it: to what, and with what. */
export interface Command<Name extends CommandName> {
  readonly name: Name;
  /** The id of what it is done to; left out for what names its things itself. */
  readonly target?: string;
  readonly input: CommandInput<Name>;
}

/**
 * Carries out commands by their name, for whoever is no screen: the right is asked for, the input
 * checked by its rules, and the use case does it in a transaction of its own, as for a route.
 */
@Injectable()
export class RunCommand {
  private readonly commands: ReadonlyMap<CommandName, AreaCommand>;
  private readonly modules: ModuleRef;
  constructor(@Inject(AREA_COMMANDS) commands: readonly AreaCommand[], modules: ModuleRef) {
    this.commands = new Map(commands.map((command) => [command.name, command]));
    this.modules = modules;
  }

  /** Answers what the use case does. Refuses as its route would. */
  async run<Name extends CommandName>(who: Who, { name, target = '', input }: Command<Name>): Promise<unknown> {
    const { action, input: rules } = COMMANDS[name];
    requireCan(who, action, { words: 'You cannot do this. Ask a lead.' });
    const checked = (await inputPipe.transform({ ...input }, { type: 'body', metatype: rules })) as never;
    const { by, run } = this.commands.get(name) as AreaCommand;
    return run(this.modules.get<never>(by, { strict: false }), who, { target, input: checked } as never);
  }
}
