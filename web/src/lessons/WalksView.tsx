import { useQueries } from '@tanstack/react-query';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { goalsOf } from '@vigilum/core/lesson';
import {
  knobsMoved,
  mannersOf,
  resultFacts,
  resultsTold,
  walkOf,
  type Manner,
  type ResultKey,
  type Trial,
} from '@vigilum/core/tuning';
import { useToday } from '../data/queries.ts';
import { askWalk } from '../tuning/useWalk.ts';
import { WalkChart } from '../tuning/WalkChart.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Loading } from '../ui/states.tsx';
import { useNow } from '../ui/time.ts';
import { VerdictChip, type Tone } from '../ui/verdict.tsx';
import { useBench } from './LessonLayout.tsx';

const toneOf: Record<Manner['kind'], Tone> = {
  'goes well': 'done',
  'has not begun': 'none',
  circles: 'risk',
  jumps: 'risk',
  'two at once': 'risk',
  'stopped early': 'risk',
};

interface TeamWalk {
  id: number;
  name: string;
  trials: readonly Trial[];
}

/** Every team's walk side by side, on the same two axes: who circles, who jumps, who stopped too early. */
function Walks({ teams, slug, now }: { teams: readonly TeamWalk[]; slug: string; now: number }) {
  const { lesson } = useBench();
  const goals = useMemo(() => goalsOf(lesson), [lesson]);
  const walks = useMemo(
    () =>
      teams.map((team) => ({
        ...team,
        walk: walkOf(
          team.trials.filter(({ source }) => source !== 'proof'),
          goals,
        ),
      })),
    [teams, goals],
  );
  const begun = walks.filter(({ walk }) => walk.length > 0);
  const all = walks.flatMap(({ walk }) => walk);
  const knob = knobsMoved(all)[0];
  const told = resultsTold(all);
  const result: ResultKey | undefined =
    goals.map(({ key }) => key).find((key) => told.includes(key)) ?? told[0];
  return (
    <Panel
      scrolls
      className="flex-1"
      title="Every team’s walk"
      aside={
        knob && result
          ? `${knob.name} against ${resultFacts[result].name} · ○ simulated, ■ on the floor, ringed: best so far`
          : undefined
      }
    >
      <ul className="grid grid-cols-1 gap-4 sm:grid-cols-2 xl:grid-cols-4">
        {begun.map(({ id, name, walk }) => {
          const manners = mannersOf(walk, goals, now);
          return (
            <li key={id} className="flex min-w-0 flex-col gap-1 rounded-lg border border-line p-3">
              <div className="flex flex-wrap items-baseline gap-x-2">
                <Link
                  className="inline-flex min-h-11 items-center text-lg font-bold text-sea underline"
                  to={`/teams/${id}/lessons/${slug}/try?view=tune`}
                >
                  {name}
                </Link>
                <span className="text-ink-2">
                  {walk.length === 0 ? '' : `${walk.length} ${walk.length === 1 ? 'trial' : 'trials'}`}
                </span>
              </div>
              {knob && result && walk.length > 0 ? (
                <WalkChart walk={walk} goals={goals} knob={knob} result={result} className="h-44" small />
              ) : null}
              <ul className="flex flex-col gap-1">
                {manners.map(({ kind, says }) => (
                  <li key={kind}>
                    <VerdictChip tone={toneOf[kind]}>{says}</VerdictChip>
                  </li>
                ))}
              </ul>
            </li>
          );
        })}
      </ul>
      {begun.length < walks.length ? (
        <p className="mt-3">
          <span className="text-ink-2">No trial yet:</span>{' '}
          {walks
            .filter(({ walk }) => walk.length === 0)
            .map(({ name }) => name)
            .join(', ')}
        </p>
      ) : null}
    </Panel>
  );
}

export function WalksView() {
  const { lesson } = useBench();
  const today = useToday();
  const now = useNow(30_000);
  const teams = useMemo(
    () => (today.data?.periods ?? []).filter((p) => p.lesson.slug === lesson.slug).flatMap((p) => p.teams),
    [today.data, lesson.slug],
  );
  const queries = useQueries({ queries: teams.map(({ id }) => askWalk(id, lesson.slug)) });
  if (teams.length === 0 && !today.isPending)
    return (
      <Panel className="flex-1">
        <Empty title="No class has this lesson today.">
          <p>Start an hour with it, then every team’s walk is shown here side by side.</p>
        </Empty>
      </Panel>
    );
  if (today.isPending || queries.some(({ isPending }) => isPending)) return <Loading what="the walks" />;
  return (
    <Walks
      slug={lesson.slug}
      now={now}
      teams={teams.map(({ id, name }, i) => ({ id, name, trials: queries[i]?.data?.trials ?? [] }))}
    />
  );
}
