import type { Area } from '../platform/area.ts';
import { Account } from './account.entity.ts';
import { AccountRepository } from './account.repository.ts';
import { SessionController } from './session.controller.ts';
import { SignInAttempt } from './sign-in-attempt.entity.ts';
import { SignInAttempts } from './sign-in-attempts.ts';

export const account: Area = {
  controllers: [SessionController],
  providers: [SignInAttempts, AccountRepository],
  entities: [Account, SignInAttempt],
};
