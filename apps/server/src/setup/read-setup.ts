import { Inject, Injectable } from '@nestjs/common';
import { SETUP_STEP, type SetupState, type SetupStep } from '@crew/contract';
import { CONFIG, type Config } from '../platform/config.ts';
import { Database } from '../platform/database.ts';
import type { Who } from '../platform/rights.ts';

/** How far setting up the agency has come. Nothing of it is kept: whoever did a step elsewhere has done it here. */
@Injectable()
export class ReadSetup {
  private readonly database: Database;
  private readonly config: Config;
  constructor(database: Database, @Inject(CONFIG) config: Config) {
    this.database = database;
    this.config = config;
  }

  async run(who: Who): Promise<SetupState> {
    const row = await this.database.row<Readonly<Record<Exclude<SetupStep, 'agency'>, boolean>>>(DONE, [who.agencyId]);
    const isDone = (step: SetupStep): boolean =>
      step === 'agency' || row?.[step] === true || (step === 'mail' && this.config.mail.outgoing !== null);
    return { steps: SETUP_STEP.map((step) => ({ step, isDone: isDone(step) })) };
  }
}

const DONE = `
  SELECT EXISTS (SELECT 1 FROM closed_day WHERE agency_id = $1) AS holidays,
    EXISTS (SELECT 1 FROM template WHERE agency_id = $1 AND kind = 'engagement') AS templates,
    (SELECT count(*) > 1 FROM person WHERE agency_id = $1) AS people,
    EXISTS (SELECT 1 FROM engagement WHERE agency_id = $1) AS engagement,
    EXISTS (SELECT 1 FROM mail_server WHERE agency_id = $1) AS mail`;
