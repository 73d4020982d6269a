import { IsBase64, IsEmail, IsIn, IsInt, IsISO4217CurrencyCode, IsString, IsTimeZone, Matches, Max, MaxLength, Min } from 'class-validator';
import { SECOND_FACTOR_FOR, type SecondFactorFor } from './access-words.ts';
import { IsNewPassword } from './account-input.ts';
import { IsWeek } from './crew-input.ts';
import { IsLine, MayBeLeftOut, MayBeNull } from './rules.ts';

/** Setting up the agency of a new installation; whoever does it becomes its owner. */
export class SetUpAgency {
  /** The key that the server prints when it starts without an agency; upper or lower case, with or without dashes. */
  @IsString({ message: 'Write the set-up key.' })
  @IsLine(40, 'the set-up key')
  setupKey!: string;

  @IsString({ message: 'Give the agency a name.' })
  @IsLine(120, 'the agency a name')
  agencyName!: string;

  @IsString({ message: 'Write your name.' })
  @IsLine(120, 'your name')
  name!: string;

  @IsEmail({}, { message: 'Write your mail address.' })
  email!: string;

  @IsNewPassword()
  password!: string;

  /** The time zone its days are counted in, as `Europe/London`; Greenwich when left out. */
  @MayBeLeftOut()
  @IsTimeZone({ message: 'A time zone is written like Europe/London.' })
  zone?: string;

  /** Two letters, as `DE`: whose public holidays are offered. */
  @MayBeLeftOut()
  @Matches(/^[A-Z]{2}$/, { message: 'Choose a country from the list.' })
  country?: string;

  @MayBeLeftOut()
  @IsISO4217CurrencyCode({ message: 'A currency has three letters, like EUR.' })
  currency?: string;

  /** Minutes of work on Monday … Sunday; 7.5 hours Monday to Friday when left out. */
  @MayBeLeftOut()
  @IsWeek()
  week?: number[];
}

/** Working hours after which somebody is reminded. */
const AreHoursToRemind = (): PropertyDecorator => (target, property) => {
  for (const rule of [
    MayBeLeftOut(),
    IsInt({ message: 'Give a whole number of hours.' }),
    Min(0, { message: 'Give 0 hours or more; 0 reminds nobody.' }),
    Max(200, { message: 'Remind after at most 200 hours.' }),
  ])
    rule(target, property);
};

/** What the owner decides for the whole agency; what is left out stays. */
export class EditSettings {
  @MayBeLeftOut()
  @IsString({ message: 'Give the agency a name.' })
  @IsLine(120, 'the agency a name')
  name?: string;

  @MayBeLeftOut()
  @IsTimeZone({ message: 'A time zone is written like Europe/London.' })
  zone?: string;

  @MayBeLeftOut()
  @MayBeNull()
  @Matches(/^[A-Z]{2}$/, { message: 'Choose a country from the list.' })
  country?: string | null;

  @MayBeLeftOut()
  @MayBeNull()
  @Matches(/^[A-Z0-9]{1,6}$/i, { message: 'Choose a region from the list.' })
  region?: string | null;

  @MayBeLeftOut()
  @IsISO4217CurrencyCode({ message: 'A currency has three letters, like EUR.' })
  currency?: string;

  @MayBeLeftOut()
  @Matches(/^#[0-9a-f]{6}$/, { message: 'A colour is written like #0b5d57.' })
  colour?: string;

  @MayBeLeftOut()
  @IsInt({ message: 'Give a whole number of months.' })
  @Min(3, { message: 'Keep history for at least 3 months.' })
  @Max(120, { message: 'Keep history for at most 120 months.' })
  historyMonths?: number;

  @AreHoursToRemind()
  remindHours?: number;

  @AreHoursToRemind()
  remindLeadHours?: number;

  @AreHoursToRemind()
  remindTaskHours?: number;

  @AreHoursToRemind()
  remindTaskLeadHours?: number;

  @AreHoursToRemind()
  remindClientHours?: number;

  @AreHoursToRemind()
  remindClientLeadHours?: number;

  @AreHoursToRemind()
  remindLoggingHours?: number;

  /** Who has to use a second factor: `nobody`, or `leads` (owners and leads). */
  @MayBeLeftOut()
  @IsIn(SECOND_FACTOR_FOR, { message: `A second factor is asked of one of ${SECOND_FACTOR_FOR.join(', ')}.` })
  secondFactorFor?: SecondFactorFor;
}

/** The largest logo, in bytes of the picture itself. */
export const MOST_LOGO_BYTES = 262_144;

/** A new logo for the agency. */
export class KeepLogo {
  /** A PNG, JPEG or WebP picture of up to 256 KB, in base64; null removes the logo. */
  @MayBeNull()
  @IsBase64({}, { message: 'Send the picture in base64.' })
  @MaxLength(Math.ceil((MOST_LOGO_BYTES * 4) / 3) + 4, {
    message: 'The logo is larger than 256 KB. Save it smaller, 400 pixels wide are enough.',
  })
  image!: string | null;
}
