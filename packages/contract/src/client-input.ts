import { ArrayMaxSize, ArrayMinSize, IsArray, IsBoolean, IsEmail, IsIn, IsInt, IsString, MaxLength, Min } from 'class-validator';
import { IsId, IsLine, MayBeLeftOut } from './rules.ts';
import { CLIENT_HUE, type ClientHue } from './words.ts';

/** A new client. */
export class AddClient {
  @IsString({ message: 'Give the client a name.' })
  @IsLine(120, 'the client a name')
  name!: string;

  @MayBeLeftOut()
  @IsIn(CLIENT_HUE, { message: `A hue is one of ${CLIENT_HUE.join(', ')}.` })
  hue?: ClientHue;
}

/** Editing a client; only the fields given change. */
export class EditClient {
  @IsInt({ message: 'Send the version you read.' })
  @Min(1)
  version!: number;

  @MayBeLeftOut()
  @IsString({ message: 'Give the client a name.' })
  @IsLine(120, 'the client a name')
  name?: string;

  @MayBeLeftOut()
  @IsIn(CLIENT_HUE, { message: `A hue is one of ${CLIENT_HUE.join(', ')}.` })
  hue?: ClientHue;
}

/** What is known of a contact beside name and mail address. */
class ContactFields {
  @MayBeLeftOut()
  @IsString({ message: 'Write the phone number as text.' })
  @MaxLength(60, { message: 'Keep the phone number to 60 characters.' })
  phone?: string;

  @MayBeLeftOut()
  @IsString({ message: 'Write notes as text.' })
  @MaxLength(4000, { message: 'Keep notes to 4000 characters.' })
  notes?: string;
}

const WRITE_MAIL = { message: 'Write the mail address, like wren@tarrowfen.example.' };

/** A new contact of a client. They get no sign-in by this, and no mail. */
export class AddContact extends ContactFields {
  @IsString({ message: 'Write the name.' })
  @IsLine(120, 'the name')
  name!: string;

  @IsEmail({}, WRITE_MAIL)
  email!: string;
}

/** Editing a contact; only the fields given change. */
export class EditContact extends ContactFields {
  @IsInt({ message: 'Send the version you read.' })
  @Min(1)
  version!: number;

  @MayBeLeftOut()
  @IsString({ message: 'Write the name.' })
  @IsLine(120, 'the name')
  name?: string;

  @MayBeLeftOut()
  @IsEmail({}, WRITE_MAIL)
  email?: string;

  /** All clients they are a contact of, the main one first. */
  @MayBeLeftOut()
  @IsArray({ message: 'Give the clients as a list.' })
  @ArrayMinSize(1, { message: 'A contact belongs to one client at least.' })
  @ArrayMaxSize(50, { message: 'A contact belongs to at most 50 clients.' })
  @IsId({ each: true })
  clientIds?: string[];

  /** A former contact is kept, but not offered, and cannot sign in. */
  @MayBeLeftOut()
  @IsBoolean({ message: 'Say true or false.' })
  isActive?: boolean;
}
