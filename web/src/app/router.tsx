import { createBrowserRouter, Navigate, useRouteError } from 'react-router';
import { Button, LinkButton } from '../ui/Button.tsx';
import { TodayPage } from '../today/TodayPage.tsx';
import { Loading } from '../ui/states.tsx';
import { Entry } from './Entry.tsx';

/** A page that broke: says so and offers the way back, instead of a blank screen. */
function Broken() {
  const error = useRouteError();
  // Its code is not here: without the network it cannot be shown now; what was written stays in the browser.
  if (error instanceof TypeError && /import|module|fetch/i.test(error.message))
    return (
      <main className="p-8">
        <h1 className="text-title font-bold">This page is not on this tablet yet.</h1>
        <p className="my-3 text-ink-2">
          It comes with the network. What you wrote is kept in this browser and sent when the server answers.
        </p>
        <span className="flex gap-2">
          <Button main onClick={() => window.location.reload()}>
            Try again
          </Button>
          <Button onClick={() => window.history.back()}>Go back</Button>
        </span>
      </main>
    );
  const missing = (error as { status?: number } | null)?.status === 404;
  return (
    <main className="p-8">
      <h1 className="text-title font-bold">{missing ? 'There is no such page.' : 'This page broke.'}</h1>
      <p className="my-3 text-ink-2">What was saved is safe.</p>
      <LinkButton main href="/">
        Go to Today
      </LinkButton>
    </main>
  );
}

const loads: (() => Promise<unknown>)[] = [];
const stage = (load: () => Promise<{ default: React.ComponentType }>) => {
  loads.push(load);
  return async () => ({ Component: (await load()).default });
};

/** Fetches the code of every page, one after the other, so that none is missing when the network is. */
export async function fetchAllPages(): Promise<void> {
  const { stageLoads } = await import('../stages/StepPage.tsx');
  for (const load of [...loads, ...stageLoads]) await load().catch(() => undefined);
}

const doors = [
  { path: '/sign-in', lazy: stage(() => import('../access/SignInPage.tsx')) },
  { path: '/first-account', lazy: stage(() => import('../access/FirstAccountPage.tsx')) },
  { path: '/invitations/:token', lazy: stage(() => import('../access/InvitationPage.tsx')) },
  { path: '/door', lazy: stage(() => import('../access/DoorPage.tsx')) },
  { path: '/card/:card', lazy: stage(() => import('../access/CardPage.tsx')) },
  { path: '/board/:token', lazy: stage(() => import('../access/BoardDoorPage.tsx')) },
].map((route) => ({
  ...route,
  errorElement: <Broken />,
  hydrateFallbackElement: <Loading what="the page" />,
}));

export const router = createBrowserRouter([
  ...doors,
  {
    element: <Entry />,
    errorElement: <Broken />,
    hydrateFallbackElement: <Loading what="the page" />,
    children: [
      { path: '/', element: <TodayPage /> },
      { path: '/hours/:hour', lazy: stage(() => import('../hours/HourPage.tsx')) },
      { path: '/hours/:hour/live', lazy: stage(() => import('../live/LivePage.tsx')) },
      { path: '/hours/:hour/next', lazy: stage(() => import('../plan/NextPage.tsx')) },
      { path: '/board', lazy: stage(() => import('../live/BoardPage.tsx')) },
      { path: '/hours/:hour/teams/:team', lazy: stage(() => import('../class/TeamRecordPage.tsx')) },
      { path: '/classes/:id/doors', lazy: stage(() => import('../access/DoorsPage.tsx')) },
      { path: '/account', lazy: stage(() => import('../access/AccountsPage.tsx')) },
      { path: '/schools', lazy: stage(() => import('../schools/SchoolsPage.tsx')) },
      { path: '/classes/:id/report', lazy: stage(() => import('../year/ReportPage.tsx')) },
      { path: '/classes/:id/homework', lazy: stage(() => import('../year/HomeworkPage.tsx')) },
      { path: '/classes/:id/skills', lazy: stage(() => import('../year/SkillsPage.tsx')) },
      { path: '/classes/:id', lazy: stage(() => import('../classes/ClassPage.tsx')) },
      { path: '/teams/:team/logbook', lazy: stage(() => import('../year/LogbookPage.tsx')) },
      { path: '/teams/:team', lazy: stage(() => import('../hours/TeamPage.tsx')) },
      { path: '/data', lazy: stage(() => import('../start/StoragePage.tsx')) },
      { path: '/first-day', lazy: stage(() => import('../firstDay/FirstDayPage.tsx')) },
      { path: '/start', lazy: stage(() => import('../start/StartPage.tsx')) },
      { path: '/lessons', lazy: stage(() => import('../lessons/LessonsPage.tsx')) },
      {
        path: '/lessons/:slug',
        lazy: stage(() => import('../lessons/LessonLayout.tsx')),
        children: [
          { index: true, element: <Navigate to="about" replace /> },
          { path: 'about', lazy: stage(() => import('../lessons/AboutView.tsx')) },
          { path: 'try', lazy: stage(() => import('../lessons/TryView.tsx')) },
          { path: 'prove', lazy: stage(() => import('../lessons/ProveView.tsx')) },
          { path: 'expect', lazy: stage(() => import('../lessons/ExpectView.tsx')) },
          { path: 'strength', lazy: stage(() => import('../lessons/StrengthView.tsx')) },
          { path: 'fairness', lazy: stage(() => import('../lessons/FairnessView.tsx')) },
          { path: 'stuck', lazy: stage(() => import('../lessons/StuckView.tsx')) },
          { path: 'tuning', lazy: stage(() => import('../lessons/TuningView.tsx')) },
          { path: 'class', lazy: stage(() => import('../lessons/ClassView.tsx')) },
        ],
      },
      { path: '/lessons/new', lazy: stage(() => import('../builder/NewLessonPage.tsx')) },
      {
        path: '/lessons/:slug/build',
        lazy: stage(() => import('../builder/BuilderLayout.tsx')),
        children: [
          { index: true, element: <Navigate to="steps" replace /> },
          { path: 'steps', lazy: stage(() => import('../builder/StepsView.tsx')) },
          { path: 'plan', lazy: stage(() => import('../builder/PlanView.tsx')) },
          { path: 'answer', lazy: stage(() => import('../builder/AnswerView.tsx')) },
          { path: 'checks', lazy: stage(() => import('../builder/ChecksView.tsx')) },
          { path: 'twist', lazy: stage(() => import('../builder/TwistView.tsx')) },
          { path: 'versions', lazy: stage(() => import('../builder/VersionsView.tsx')) },
          { path: 'share', lazy: stage(() => import('../builder/ShareView.tsx')) },
        ],
      },
      { path: '/lessons/:slug/print/:sheet', lazy: stage(() => import('../builder/PrintSheet.tsx')) },
      { path: '/courses', lazy: stage(() => import('../courses/CoursesPage.tsx')) },
      { path: '/courses/new/:family', lazy: stage(() => import('../courses/CoursePage.tsx')) },
      { path: '/courses/lesson/:slug', lazy: stage(() => import('../courses/CoursePage.tsx')) },
      { path: '/courses/:id', lazy: stage(() => import('../courses/CoursePage.tsx')) },
      { path: '/courses/:id/print', lazy: stage(() => import('../courses/PrintPage.tsx')) },
      {
        path: '/class',
        lazy: async () => ({ Component: (await import('../class/ThresholdsPage.tsx')).ClassNow }),
      },
      { path: '/class/:period', lazy: stage(() => import('../class/ThresholdsPage.tsx')) },
      { path: '/class/:period/notes', lazy: stage(() => import('../class/NotesPage.tsx')) },
      {
        path: '/plan',
        lazy: stage(() => import('../plan/PlanLayout.tsx')),
        children: [
          { index: true, lazy: stage(() => import('../plan/CalendarPage.tsx')) },
          { path: 'series', lazy: stage(() => import('../plan/SeriesPage.tsx')) },
          { path: 'cupboard', lazy: stage(() => import('../plan/CupboardPage.tsx')) },
          { path: 'skills', lazy: stage(() => import('../plan/SkillsPage.tsx')) },
        ],
      },
      { path: '/workings', lazy: stage(() => import('../workings/WorkingsPage.tsx')) },
      { path: '/workings/:sheet', lazy: stage(() => import('../workings/WorkingsPage.tsx')) },
      { path: '/kits', lazy: stage(() => import('../kits/KitsPage.tsx')) },
      { path: '/kits/:slug/phrasebook', lazy: stage(() => import('../phrasebook/PhrasebookPage.tsx')) },
      { path: '/kits/:slug', lazy: stage(() => import('../kits/KitPage.tsx')) },
      { path: '/robots', lazy: stage(() => import('../robots/RobotsPage.tsx')) },
      {
        path: '/robots/:id',
        lazy: stage(() => import('../robots/RobotLayout.tsx')),
        children: [
          { index: true, element: <Navigate to="bench" replace /> },
          { path: 'bench', lazy: stage(() => import('../robots/BenchView.tsx')) },
          { path: 'check', lazy: stage(() => import('../robots/CheckView.tsx')) },
          { path: 'read', lazy: stage(() => import('../robots/ReadView.tsx')) },
          { path: 'measure', lazy: stage(() => import('../robots/MeasureView.tsx')) },
          { path: 'files', lazy: stage(() => import('../robots/FilesView.tsx')) },
          { path: 'build', lazy: stage(() => import('../robots/BuildView.tsx')) },
        ],
      },
      {
        path: '/teams/:team/lessons/:lesson',
        lazy: stage(() => import('../workspace/WorkspaceLayout.tsx')),
        children: [
          {
            index: true,
            lazy: async () => ({ Component: (await import('../workspace/WorkspaceLayout.tsx')).WhereItLeft }),
          },
          { path: ':step', lazy: stage(() => import('../stages/StepPage.tsx')) },
        ],
      },
    ],
  },
]);
