import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useMemo } from 'react';
import { Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { stageAt, stageNames, type StageName } from '@vigilum/core/classroom';
import { isWorking, stepFacts, stepsOf } from '@vigilum/core/lesson';
import { useIsTeam } from '../data/me.ts';
import { fetchAhead } from '../data/offlineCache.ts';
import { useWorkspaceQuery } from '../data/queries.ts';
import { Markdown } from '../ui/Markdown.tsx';
import { Onward } from '../ui/Onward.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { ago, useNow } from '../ui/time.ts';
import { useKey } from '../ui/useKey.ts';
import { stageContext, useStage, type StageContext } from './context.ts';
import { WhatToDo } from './WhatToDo.tsx';
import { WhoseContext } from '../data/whose.ts';
import { stepAt, stripOf } from '@vigilum/core/hour';
import { WatchStrip } from './WatchStrip.tsx';
import { BackLink } from '../ui/BackLink.tsx';

function StageKey({ number, go }: { number: number; go: (stage: StageName) => void }) {
  useKey(String(number + 1), () => go(stageNames[number]!));
  return null;
}

function Freshness({ context }: { context: StageContext }) {
  const now = useNow(15_000) + context.skew;
  const newest = Math.max(...context.sets.map((set) => set.at));
  if (context.sets.length === 0) return null;
  return (
    <span className="rounded-full border border-line bg-sheet px-3.5 py-1.5 whitespace-nowrap">
      read {ago(newest, now)}
    </span>
  );
}

/** A team in a lesson: who, with what, the watch strip, and the stage. */
export default function WorkspaceLayout() {
  const { team = '', lesson = '' } = useParams();
  const { pathname } = useLocation();
  const navigate = useNavigate();
  const isTeam = useIsTeam();
  const query = useWorkspaceQuery(team, lesson);
  const client = useQueryClient();
  useEffect(() => (isTeam ? fetchAhead(client, team, lesson) : undefined), [client, isTeam, team, lesson]);
  const base = `/teams/${team}/lessons/${lesson}`;
  const here = pathname.split('/').at(-1) ?? '';
  const step = query.data ? stepAt(query.data.record.lesson, here) : undefined;
  const context = useMemo(
    () => (query.data ? stageContext(query.data, lesson, query.dataUpdatedAt, step) : null),
    [query.data, query.dataUpdatedAt, lesson, step],
  );
  const whose = useMemo(() => ({ team: Number(team), lesson }), [team, lesson]);
  if (query.isPending) return <Loading what="the team’s lesson" />;
  if (!context) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { record, robot, fitted } = context;
  const { record: workspace } = query.data!;
  const { need } = record.lesson;
  return (
    <main
      data-part={step ? step.title || stepFacts[step.kind].word : undefined}
      className="flex flex-1 flex-col px-6 pt-2.5 pb-4 max-sm:px-3 lg:h-[calc(100dvh-var(--bar,0px))] lg:min-h-[40rem] lg:flex-none"
    >
      {stageNames.map((name, i) => (
        <StageKey key={name} number={i} go={(stage) => void navigate(`${base}/${stage}`)} />
      ))}
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1">
        {isTeam ? null : <BackLink to="/" title="Back to the class" />}
        <h1 className="text-title font-bold">
          {context.team.name} · {record.lesson.title}
        </h1>
        <span className="text-ink-2">
          robot {robot.name}
          {fitted
            ? ` · ${need.kind} on ${need.socket} · ${fitted.fitting.heightMm} mm above the floor`
            : ` · nothing that reads ${need.kind} on ${need.socket}`}
        </span>
        <span className="ml-auto flex items-center gap-2">
          {step && isWorking(step.kind) ? <WhatToDo key={step.id} step={step} /> : null}
          <Freshness context={context} />
        </span>
      </header>
      <WatchStrip
        steps={stripOf(context.lesson, context.stages, context.place, (step) => stageAt(workspace, step))}
        here={step?.id ?? ''}
        base={base}
      />
      {step && isWorking(step.kind) && (step.title || step.expects) ? (
        <p className="truncate leading-6 text-ink-2">
          <strong className="text-ink">{step.title || stepFacts[step.kind].word}</strong>
          {step.expects ? (
            <>
              {' '}
              · done when: <Markdown inline text={step.expects} />
            </>
          ) : null}
        </p>
      ) : null}
      <div className="mt-1.5 flex min-h-0 flex-1 flex-col">
        <WhoseContext value={whose}>
          <Outlet context={context} />
        </WhoseContext>
      </div>
    </main>
  );
}

/** A team's lesson without a step in its address: where the team left, or the beginning. */
export function WhereItLeft() {
  const { lesson, place, base } = useStage();
  const step = stepAt(lesson, place ?? '') ?? stepsOf(lesson)[0]!;
  return <Onward to={`${base}/${step.id}`} what="the step" />;
}
