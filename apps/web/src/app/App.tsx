import { I18nProvider, RouterProvider as AriaRouterProvider } from 'react-aria-components';
import { createBrowserRouter, Navigate, Outlet, useHref, useNavigate, useRouteError } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { SWRConfig } from 'swr';
import { ErrorNote, Page } from '../ui/layout.tsx';
import { GlobalStyle } from '../ui/tokens.ts';
import { NoticeRegion } from '../ui/toasts.tsx';
import { ForCrew, Front } from '../session/session.tsx';
import { Shell } from './Shell.tsx';

/** Lets React Aria's links go through the router. */
function Frame() {
  const navigate = useNavigate();
  return (
    <AriaRouterProvider navigate={(path) => void navigate(path)} useHref={useHref}>
      <Outlet />
      <NoticeRegion />
    </AriaRouterProvider>
  );
}

function Fault() {
  const error = useRouteError();
  return (
    <Page>
      <ErrorNote error={error} />
    </Page>
  );
}

const router = createBrowserRouter([
  {
    element: <Frame />,
    errorElement: <Fault />,
    HydrateFallback: () => null,
    children: [
      { path: '/sign-in', lazy: () => import('../features/sign-in/SignInPage.tsx').then(({ SignInPage }) => ({ Component: SignInPage })) },
      { path: '/set-up', lazy: () => import('../features/setup/SetUpPage.tsx').then(({ SetUpPage }) => ({ Component: SetUpPage })) },
      {
        path: '/welcome/:token',
        lazy: () => import('../features/sign-in/WelcomePage.tsx').then(({ WelcomePage }) => ({ Component: WelcomePage })),
      },
      {
        path: '/forgotten',
        lazy: () => import('../features/sign-in/ForgottenPage.tsx').then(({ ForgottenPage }) => ({ Component: ForgottenPage })),
      },
      {
        path: '/project',
        lazy: () => import('../features/client-page/ClientPage.tsx').then(({ ClientPage }) => ({ Component: ClientPage })),
      },
      { index: true, element: <Front /> },
      {
        element: (
          <ForCrew>
            <Shell />
          </ForCrew>
        ),
        children: [
          { path: 'desk', lazy: () => import('../features/desk/DeskPage.tsx').then(({ DeskPage }) => ({ Component: DeskPage })) },
          {
            path: 'engagements',
            lazy: () =>
              import('../features/engagement/EngagementsPage.tsx').then(({ EngagementsPage }) => ({ Component: EngagementsPage })),
          },
          {
            path: 'engagements/start',
            lazy: () => import('../features/start/StartPage.tsx').then(({ StartPage }) => ({ Component: StartPage })),
          },
          {
            path: 'engagements/repeating',
            lazy: () => import('../features/series/SeriesListPage.tsx').then(({ SeriesListPage }) => ({ Component: SeriesListPage })),
          },
          {
            path: 'engagements/repeating/:id',
            lazy: () => import('../features/series/SeriesPage.tsx').then(({ SeriesPage }) => ({ Component: SeriesPage })),
          },
          {
            path: 'engagements/:id',
            lazy: () => import('../features/engagement/PlanPage.tsx').then(({ PlanPage }) => ({ Component: PlanPage })),
          },
          {
            path: 'workload',
            lazy: () => import('../features/workload/WorkloadPage.tsx').then(({ WorkloadPage }) => ({ Component: WorkloadPage })),
          },
          { path: 'time', lazy: () => import('../features/time/TimePage.tsx').then(({ TimePage }) => ({ Component: TimePage })) },
          {
            path: 'workload/week',
            lazy: () => import('../features/week-plan/WeekPlanPage.tsx').then(({ WeekPlanPage }) => ({ Component: WeekPlanPage })),
          },
          {
            path: 'calendar',
            lazy: () => import('../features/calendar/CalendarPage.tsx').then(({ CalendarPage }) => ({ Component: CalendarPage })),
          },
          { path: 'crew', lazy: () => import('../features/crew/CrewPage.tsx').then(({ CrewPage }) => ({ Component: CrewPage })) },
          {
            path: 'clients',
            lazy: () => import('../features/client/ClientsPage.tsx').then(({ ClientsPage }) => ({ Component: ClientsPage })),
          },
          {
            path: 'clients/:id',
            lazy: () => import('../features/client/ClientDetailPage.tsx').then(({ ClientDetailPage }) => ({ Component: ClientDetailPage })),
          },
          {
            path: 'history',
            lazy: () => import('../features/history/HistoryPage.tsx').then(({ HistoryPage }) => ({ Component: HistoryPage })),
          },
          {
            path: 'handoffs',
            lazy: () => import('../features/handoff/HandoffsPage.tsx').then(({ HandoffsPage }) => ({ Component: HandoffsPage })),
          },
          {
            path: 'handoffs/rules',
            lazy: () => import('../features/rule/RulesPage.tsx').then(({ RulesPage }) => ({ Component: RulesPage })),
          },
          {
            path: 'handoffs/speed',
            lazy: () => import('../features/handoff-speed/SpeedPage.tsx').then(({ SpeedPage }) => ({ Component: SpeedPage })),
          },
          {
            path: 'handoffs/rules/runs',
            lazy: () => import('../features/rule/RunsPage.tsx').then(({ RunsPage }) => ({ Component: RunsPage })),
          },
          {
            path: 'webhooks',
            lazy: () => import('../features/webhook/WebhooksPage.tsx').then(({ WebhooksPage }) => ({ Component: WebhooksPage })),
          },
          {
            path: 'settings',
            lazy: () => import('../features/settings/OwnSettingsPage.tsx').then(({ OwnSettingsPage }) => ({ Component: OwnSettingsPage })),
          },
          {
            path: 'settings/agency',
            lazy: () =>
              import('../features/settings/AgencySettingsPage.tsx').then(({ AgencySettingsPage }) => ({ Component: AgencySettingsPage })),
          },
          {
            path: 'settings/lists',
            lazy: () => import('../features/settings/ListsPage.tsx').then(({ ListsPage }) => ({ Component: ListsPage })),
          },
          {
            path: 'settings/set-up/:step?',
            lazy: () => import('../features/setup/SetupStepsPage.tsx').then(({ SetupStepsPage }) => ({ Component: SetupStepsPage })),
          },
          {
            path: 'settings/security',
            lazy: () => import('../features/settings/SecurityPage.tsx').then(({ SecurityPage }) => ({ Component: SecurityPage })),
          },
          {
            path: 'guide/:page?',
            lazy: () => import('../features/guide/GuideRoute.tsx').then(({ GuideRoute }) => ({ Component: GuideRoute })),
          },
          { path: 'mail', lazy: () => import('../features/mail/MailboxPage.tsx').then(({ MailboxPage }) => ({ Component: MailboxPage })) },
          {
            path: 'mail/sent',
            lazy: () => import('../features/mail/SentMailPage.tsx').then(({ SentMailPage }) => ({ Component: SentMailPage })),
          },
          {
            path: 'mail/server',
            lazy: () => import('../features/mail/MailServerPage.tsx').then(({ MailServerPage }) => ({ Component: MailServerPage })),
          },
          {
            path: 'from-mail/:token',
            lazy: () => import('../features/mail/FromMailPage.tsx').then(({ FromMailPage }) => ({ Component: FromMailPage })),
          },
          {
            path: 'templates',
            lazy: () => import('../features/template/TemplatesPage.tsx').then(({ TemplatesPage }) => ({ Component: TemplatesPage })),
          },
          {
            path: 'templates/:id',
            lazy: () => import('../features/template/TemplatePage.tsx').then(({ TemplatePage }) => ({ Component: TemplatePage })),
          },
          ...(import.meta.env.DEV
            ? [{ path: 'kit', lazy: () => import('../features/kit/KitPage.tsx').then(({ KitPage }) => ({ Component: KitPage })) }]
            : []),
        ],
      },
      { path: '*', element: <Navigate to="/" replace /> },
    ],
  },
]);

/** The whole application. */
export function App() {
  return (
    <I18nProvider locale="en-GB">
      <SWRConfig value={{ revalidateOnFocus: true, shouldRetryOnError: false }}>
        <GlobalStyle />
        <RouterProvider router={router} />
      </SWRConfig>
    </I18nProvider>
  );
}
