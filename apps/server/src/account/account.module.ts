import type { Area } from '../platform/area.ts';
import { Account } from './account.entity.ts';
import { AccountController } from './account.controller.ts';
import { AccountRepository } from './account.repository.ts';
import { ChangePassword } from './change-password.ts';
import { CheckPassword } from './check-password.ts';
import { OwnSessions } from './own-sessions.ts';
import { SecondFactor } from './second-factor.entity.ts';
import { SecondFactors } from './second-factors.ts';
import { SecurityEvent } from './security-event.entity.ts';
import { KeepSecurityLog } from './security-log.ts';
import { SessionController } from './session.controller.ts';
import { SignInAttempt } from './sign-in-attempt.entity.ts';
import { SignInAttempts } from './sign-in-attempts.ts';

export const account: Area = {
  controllers: [SessionController, AccountController],
  providers: [SignInAttempts, AccountRepository, CheckPassword, ChangePassword, OwnSessions, SecondFactors, KeepSecurityLog],
  entities: [Account, SignInAttempt, SecondFactor, SecurityEvent],
};
