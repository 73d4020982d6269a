import { IsBoolean, IsEmail, IsInt, IsString, IsTimeZone, Max, MaxLength, Min, MinLength } from 'class-validator';
import { IsId, IsLine, MayBeLeftOut } from './rules.ts';

/** Signing in by password. */
export class SignIn {
  @IsEmail({}, { message: 'Write your mail address, like odalys@quillmarsh.example.' })
  email!: string;

  @IsString({ message: 'Write your password.' })
  @IsLine(200, 'your password')
  password!: string;
}

/** Signing in as one of the demo's people; only while the demo is on. */
export class DemoSignIn {
  @IsId()
  accountId!: string;
}

/** The first visitor of an empty installation founds its agency and becomes the owner. */
export class BeginAgency {
  @IsString({ message: 'Give the agency a name.' })
  @IsLine(120, 'the agency a name')
  agencyName!: string;

  @IsString({ message: 'Write your name.' })
  @IsLine(120, 'your name')
  name!: string;

  @IsEmail({}, { message: 'Write your mail address.' })
  email!: string;

  @IsString({ message: 'Choose a password.' })
  @MinLength(12, { message: 'Choose a password of at least 12 characters.' })
  @MaxLength(200, { message: 'Keep the password to 200 characters.' })
  password!: string;

  /** The time zone its days are counted in, as `Europe/London`; Greenwich when left out. */
  @MayBeLeftOut()
  @IsTimeZone({ message: 'A time zone is written like Europe/London.' })
  zone?: string;

  /** Brings the example templates and their roles. */
  @IsBoolean({ message: 'With examples is yes or no.' })
  withExamples!: boolean;
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
}
