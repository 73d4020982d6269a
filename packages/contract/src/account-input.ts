import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsEmail,
  IsObject,
  IsString,
  Matches,
  MaxLength,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { Type } from 'class-transformer';
import { CrewFields } from './crew-input.ts';
import { IsId, IsLine, MayBeLeftOut } from './rules.ts';

/** A password somebody chooses for themselves. */
export const IsNewPassword = (): PropertyDecorator => (target, property) => {
  for (const rule of [
    IsString({ message: 'Choose a password.' }),
    MinLength(12, { message: 'Choose a password of at least 12 characters.' }),
    MaxLength(200, { message: 'Keep the password to 200 characters.' }),
  ])
    rule(target, property);
};

/** Signing in by password, with the code of the second factor where there is one. */
export class SignIn {
  @IsEmail({}, { message: 'Write your mail address, like odalys@quillmarsh.example.' })
  email!: string;

  @IsString({ message: 'Write your password.' })
  @IsLine(200, 'your password')
  password!: string;

  /** Six digits of the authenticator app, or a recovery code. */
  @MayBeLeftOut()
  @IsString({ message: 'Write the code.' })
  @MaxLength(40, { message: 'A code has six digits; a recovery code has 14 characters.' })
  code?: string;
}

/** Signing in as one of the demo's people; only while the demo is on. */
export class DemoSignIn {
  @IsId()
  accountId!: string;
}

/** Another password; every other session of the account ends. */
export class ChangePassword {
  @IsString({ message: 'Write your current password.' })
  @IsLine(200, 'your current password')
  current!: string;

  @IsNewPassword()
  password!: string;
}

/** Turning the second factor on: a code shows that the app has the secret. */
export class ConfirmSecondFactor {
  @IsString({ message: 'Write the six digits your app shows.' })
  @Matches(/^\s*\d{3}\s?\d{3}\s*$/, { message: 'Write the six digits your app shows.' })
  code!: string;
}

/** Closes a hint of the interface, by its name. */
export class CloseHint {
  @IsString({ message: 'Say which hint.' })
  @Matches(/^[a-z0-9-]{1,40}$/, { message: 'A hint is named by small letters, digits and dashes.' })
  hint!: string;
}

/** Changes that need the password once more. */
export class WithPassword {
  @IsString({ message: 'Write your password.' })
  @IsLine(200, 'your password')
  password!: string;
}

/** Asking for a link to choose a new password. */
export class AskForLink {
  @IsEmail({}, { message: 'Write your mail address.' })
  email!: string;
}

/** Choosing a password by a link. */
export class UseLink {
  @IsNewPassword()
  password!: string;
}

/** Somebody who is invited: their link lets them choose a password. */
export class InvitedPerson extends CrewFields {
  @IsString({ message: 'Write the name.' })
  @IsLine(120, 'the name')
  name!: string;

  @IsEmail({}, { message: 'Write the mail address, like odalys@quillmarsh.example.' })
  email!: string;
}

/** People who are invited together, all or none. */
export class InvitePeople {
  @IsArray({ message: 'Give the people as a list.' })
  @ArrayMinSize(1, { message: 'Give at least one person.' })
  @ArrayMaxSize(100, { message: 'Invite at most 100 people at once.' })
  @IsObject({ each: true, message: 'Give each with its fields.' })
  @ValidateNested({ each: true })
  @Type(() => InvitedPerson)
  people!: InvitedPerson[];
}
