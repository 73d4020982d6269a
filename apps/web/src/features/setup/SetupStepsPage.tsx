import { Navigate, useNavigate, useParams } from 'react-router';
import styled from 'styled-components';
import { useSetup } from '../../api/queries.ts';
import { ErrorNote, Loading, Muted, Page, PageHead, Panel } from '../../ui/layout.tsx';
import { SettingsTabs } from '../settings/SettingsTabs.tsx';
import { EngagementStep } from './EngagementStep.tsx';
import { HolidayStep } from './HolidayStep.tsx';
import { PeopleStep } from './PeopleStep.tsx';
import { SetupSteps } from './SetupSteps.tsx';
import { StepTrack } from './StepTrack.tsx';
import { isGuided, nextOf, STEP_WORDS, type GuidedStep } from './steps.ts';
import { TemplateStep } from './TemplateStep.tsx';

const Narrow = styled.div<{ $isNarrow: boolean }>`
  max-width: ${({ $isNarrow }) => ($isNarrow ? '860px' : 'none')};
  margin: 0 auto;
`;
const Body = styled(Panel)`
  padding: 16px 18px 18px;
  h2 {
    font-size: 17px;
    margin-bottom: 4px;
  }
  > p {
    color: var(--ink-2);
    margin-bottom: 12px;
  }
`;

const BODIES: Readonly<Record<GuidedStep, (props: { readonly onNext: () => void }) => React.ReactNode>> = {
  holidays: HolidayStep,
  templates: TemplateStep,
  people: PeopleStep,
  engagement: EngagementStep,
};

/** Setting up the agency: all steps with what is done, or one of them. */
export function SetupStepsPage() {
  const { step } = useParams();
  const navigate = useNavigate();
  const { data: setup, error } = useSetup();
  if (step !== undefined && !isGuided(step)) return <Navigate to="/settings/set-up" replace />;
  const Step = step === undefined ? null : BODIES[step];
  return (
    <Page>
      <Narrow $isNarrow={step !== undefined}>
        <PageHead>
          <h1>{step === undefined ? 'Settings' : 'Set up your agency'}</h1>
          {step === undefined ? (
            <SettingsTabs shown="/settings/set-up" />
          ) : (
            <Muted>Every step can be skipped, and done later under Settings.</Muted>
          )}
        </PageHead>
        {error ? (
          <ErrorNote error={error} />
        ) : setup === undefined ? (
          <Loading rows={8} />
        ) : step === undefined || Step === null ? (
          <SetupSteps steps={setup.steps} />
        ) : (
          <>
            <StepTrack steps={setup.steps} now={step} />
            <Body aria-label={STEP_WORDS[step].name}>
              <Step key={step} onNext={() => void navigate(nextOf(step))} />
            </Body>
          </>
        )}
      </Narrow>
    </Page>
  );
}
