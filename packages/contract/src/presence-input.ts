import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsObject, ValidateNested } from 'class-validator';
import { IsId } from './rules.ts';

/** What people see each other at. */
export const PRESENCE_KIND = ['engagement', 'task'] as const;
export type PresenceKind = (typeof PRESENCE_KIND)[number];

/** How often a window reports what it shows, and after how long a silent one counts as closed. */
export const PRESENCE_EACH_MS = 40_000;
export const PRESENCE_GONE_AFTER_MS = 100_000;

/** Something that is open in a window. */
export class ShownThing {
  @IsIn(PRESENCE_KIND, { message: 'What is shown is an engagement or a task.' })
  kind!: PresenceKind;

  @IsId()
  id!: string;
}

/** All that a window shows at this moment; an empty list for one that is closed or hidden. */
export class ShowPresence {
  @IsArray({ message: 'Give what is shown as a list.' })
  @ArrayMaxSize(4, { message: 'A window shows four things at most.' })
  @IsObject({ each: true, message: 'Give each with its fields.' })
  @ValidateNested({ each: true })
  @Type(() => ShownThing)
  shown!: ShownThing[];
}
