import { commandBy, type Area } from '../platform/area.ts';
import { AcceptProposal } from './accept-proposal.ts';
import { DropEngagement } from './drop-engagement.ts';
import { EditEngagement } from './edit-engagement.ts';
import { ClientPageController, EngagementController } from './engagement.controller.ts';
import { Deliverable, Engagement, EngagementRole, EngagementSummary, Phase } from './engagement.entity.ts';
import { EngagementRepository } from './engagement.repository.ts';
import { StartRound } from './start-round.ts';
import { StartEngagement } from './start-engagement.ts';

export const engagement: Area = {
  controllers: [EngagementController, ClientPageController],
  providers: [StartEngagement, StartRound, AcceptProposal, EditEngagement, DropEngagement, EngagementRepository],
  entities: [Engagement, EngagementRole, Deliverable, Phase, EngagementSummary],
  commands: [
    commandBy({ name: 'engagement.edit', by: EditEngagement, run: (editing, who, { target, input }) => editing.run(who, target, input) }),
    commandBy({ name: 'round.start', by: StartRound, run: (rounds, who, { target, input }) => rounds.run(who, target, input) }),
    commandBy({
      name: 'engagement.drop',
      by: DropEngagement,
      run: (dropping, who, { target, input }) => dropping.drop(who, target, input),
    }),
  ],
};
