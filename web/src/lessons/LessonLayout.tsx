import { Hammer, RotateCcw } from 'lucide-react';
import { NavLink, Outlet, useLocation, useOutletContext, useParams } from 'react-router';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import type { LessonBench } from '@vigilum/contract/types';
import { BackLink } from '../ui/BackLink.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { useLessonBench } from './useSubject.ts';

const views = [
  { to: 'about', word: 'About' },
  { to: 'try', word: 'Try' },
  { to: 'prove', word: 'Prove' },
  { to: 'expect', word: 'Expectations' },
  { to: 'strength', word: 'Strength' },
  { to: 'fairness', word: 'Fairness' },
  { to: 'stuck', word: 'Stuck' },
  { to: 'tuning', word: 'Tuning' },
  { to: 'class', word: 'Class' },
];

export const useBench = (): LessonBench => useOutletContext<LessonBench>();

/** One lesson, for the teacher: what it asks, and the tools that judge scripts and the lesson's own checks. */
export default function LessonLayout() {
  const { slug = '' } = useParams();
  const { pathname, search } = useLocation();
  const query = useLessonBench(slug);
  const back = useChange(
    (_: void) => api('POST /lessons/:slug/shipped-form', { slug }),
    () => [{ what: 'lesson', lesson: slug, of: 0 }],
  );
  if (query.isPending) return <Loading what="the lesson" />;
  if (!query.data) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { lesson, changed, shipped } = query.data;
  return (
    <main
      data-part={views.find(({ to }) => pathname.endsWith(to))?.word}
      className="flex flex-1 flex-col px-6 pt-2.5 pb-4 max-sm:px-3 lg:h-dvh lg:min-h-[40rem] lg:flex-none"
    >
      <header className="mb-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        <BackLink to="/lessons" title="Back to all lessons" />
        <h1 className="text-title font-bold">{lesson.title}</h1>
        {changed && shipped ? (
          <Button
            icon={RotateCcw}
            title="The lesson was changed here: bring it back as it was shipped"
            onClick={() => back.mutate(undefined)}
          >
            As shipped
          </Button>
        ) : null}
        <nav aria-label="Views of the lesson" className="ml-auto flex flex-wrap gap-1">
          {views.map(({ to, word }) => (
            <NavLink
              key={to}
              to={`${to}${search}`}
              className={({ isActive }) =>
                `flex min-h-11 items-center rounded-lg border px-3 ${isActive ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`
              }
            >
              {word}
            </NavLink>
          ))}
          <LinkButton main icon={Hammer} to={`/lessons/${slug}/build/steps`}>
            Build
          </LinkButton>
        </nav>
      </header>
      <div className="flex min-h-0 flex-1 flex-col gap-2">
        <Outlet context={query.data} />
      </div>
    </main>
  );
}
