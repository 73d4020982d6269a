import { ArrayMaxSize, IsArray, IsBoolean, IsIn, IsInt, IsString, IsUrl, MaxLength } from 'class-validator';
import { FOLLOWED_EVENTS, type EventKind } from './events.ts';
import { IsLine, MayBeLeftOut } from './rules.ts';

/** Events a webhook can ask for: those that are followed. */
export const WEBHOOK_EVENTS = [...new Set(FOLLOWED_EVENTS)].sort();

const IS_ADDRESS = { protocols: ['http', 'https'], require_protocol: true, require_tld: false };
const BAD_ADDRESS = { message: 'Give a web address that begins with https:// or http://.' };
const BAD_KIND = { each: true, message: 'Choose from the events in the list.' };

/** A program elsewhere that receives events, or is called by rules. */
export class AddWebhook {
  @IsString({ message: 'Give it a name.' })
  @IsLine(80, 'it a name')
  name!: string;

  @IsUrl(IS_ADDRESS, BAD_ADDRESS)
  @MaxLength(500, { message: 'Keep the address to 500 characters.' })
  url!: string;

  /** Empty for one that only rules call. */
  @IsArray({ message: 'Give the events as a list.' })
  @ArrayMaxSize(100, { message: 'Choose at most 100 events.' })
  @IsIn(WEBHOOK_EVENTS, BAD_KIND)
  kinds!: EventKind[];
}

/** Editing a webhook; what is left out stays. */
export class EditWebhook {
  @IsInt({ message: 'Send the version that was read.' })
  version!: number;

  @MayBeLeftOut()
  @IsString({ message: 'Give it a name.' })
  @IsLine(80, 'it a name')
  name?: string;

  @MayBeLeftOut()
  @IsUrl(IS_ADDRESS, BAD_ADDRESS)
  @MaxLength(500, { message: 'Keep the address to 500 characters.' })
  url?: string;

  @MayBeLeftOut()
  @IsArray({ message: 'Give the events as a list.' })
  @ArrayMaxSize(100, { message: 'Choose at most 100 events.' })
  @IsIn(WEBHOOK_EVENTS, BAD_KIND)
  kinds?: EventKind[];

  @MayBeLeftOut()
  @IsBoolean({ message: 'On is yes or no.' })
  isOn?: boolean;
}
