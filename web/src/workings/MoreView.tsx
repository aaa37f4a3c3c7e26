import { useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import type { KnownRobot, Lesson, WorkedFollower, WorkedPage } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { resultText } from '@vigilum/core/tuning';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { Choice } from '../ui/Choice.tsx';
import { Chart, type ChartOption } from '../ui/Chart.tsx';
import { Panel } from '../ui/Panel.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { role } from '../ui/theme.ts';
import { VerdictChip } from '../ui/verdict.tsx';
import { simulation } from '../workers/simulation.ts';

/** The lesson that the page works with: the one of the harbour year in which an edge is followed. */
const LESSON = 'follow-the-channel';
const speeds = ['10', '15', '20', '25', '30'] as const;

const titles: Record<WorkedFollower['kind'], { title: string; says: string }> = {
  'two-state': { title: 'Two states', says: 'too light: that way; too dark: the other way' },
  P: { title: 'In proportion (P)', says: 'twice as far off: twice the steering' },
  PI: { title: 'With the sum (PI)', says: 'what stays off for long is steered away' },
  PD: { title: 'With the rate (PD)', says: 'what comes nearer fast is met early' },
  PID: { title: 'With rate and sum (PID)', says: 'and what stays off in a long bend is steered away' },
};

/** What it was off, over time; all four on the same axes. */
function offOption({ off }: WorkedFollower, longestS: number): ChartOption {
  const ink2 = role('ink-2');
  const axis = {
    type: 'value' as const,
    nameLocation: 'middle' as const,
    nameTextStyle: { color: ink2, fontSize: 14 },
    axisLabel: { color: ink2, fontSize: 14 },
    splitLine: { lineStyle: { color: role('line-soft') } },
  };
  // Every fourth look: the eye sees no more, and the drawing is quick.
  const data: [number, number][] = [];
  for (let i = 0; i < off.values.length; i += 4) data.push([i * off.everyS, off.values[i]!]);
  return {
    grid: { left: 52, right: 12, top: 8, bottom: 40 },
    xAxis: { ...axis, min: 0, max: longestS, name: 'time, s', nameGap: 24 },
    yAxis: { ...axis, min: -40, max: 40, interval: 20, name: 'off, points', nameGap: 34 },
    series: [
      {
        type: 'line' as const,
        data: [
          [0, 0],
          [longestS, 0],
        ],
        showSymbol: false,
        silent: true,
        lineStyle: { color: role('signal'), width: 2 },
      },
      {
        type: 'line' as const,
        data,
        showSymbol: false,
        silent: true,
        lineStyle: { color: role('sea'), width: 1.5 },
      },
    ],
  };
}

function Follower({ follower, longestS }: { follower: WorkedFollower; longestS: number }) {
  const { kind, gains, results, kept, text } = follower;
  const { title, says } = titles[kind];
  return (
    <article aria-label={title} className="flex min-w-0 flex-col rounded-lg border border-line p-3">
      <div className="flex flex-wrap items-baseline gap-x-2">
        <h3 className="text-lg font-bold">{title}</h3>
        <span className="text-ink-2">{says}</span>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-x-4">
        <VerdictChip tone={kept ? 'done' : 'fault'}>{kept ? 'holds the channel' : 'loses it'}</VerdictChip>
        {results.rms !== undefined ? (
          <span className="font-mono">{resultText('rms', results.rms)} off</span>
        ) : null}
        {results.time !== undefined ? (
          <span className="font-mono">{resultText('time', results.time)}</span>
        ) : null}
      </div>
      <Chart
        className="h-40"
        label={`${title}: what it read beside the threshold, over time.`}
        option={() => offOption(follower, longestS)}
        redraw={[follower, longestS]}
      />
      <details>
        <summary className="flex min-h-11 cursor-pointer items-center font-semibold text-sea">
          its script{gains ? ' and where its numbers come from' : ''}
        </summary>
        {gains ? (
          <ul className="mb-1">
            {gains.working.map((line) => (
              <li key={line} className="font-mono">
                {line}
              </li>
            ))}
            <li className="text-ink-2">{gains.source}</li>
          </ul>
        ) : null}
        <pre className="overflow-x-auto rounded-lg border border-line p-2 font-mono leading-6" tabIndex={0}>
          {text}
        </pre>
      </details>
    </article>
  );
}

function Worked({ page, speed }: { page: WorkedPage; speed: string }) {
  const { loop, found, followers } = page;
  // Ends on a tick.
  const longestS = 5 * Math.ceil(Math.max(...followers.map(({ off }) => off.everyS * off.values.length)) / 5);
  const apart = (a: number, b: number) => `${formatNumber(100 * Math.abs(a / b - 1), 0)} % apart`;
  return (
    <div className="flex flex-col gap-3">
      <section>
        <h3 className="font-bold">How much gain is too much, at {speed} %?</h3>
        <div className="mt-1 grid grid-cols-1 gap-x-6 gap-y-1 xl:grid-cols-2">
          <ul>
            {loop.working.map((line) => (
              <li key={line}>{line}</li>
            ))}
            <li className="text-ink-2">
              where the loop has the gain 1 at half a turn of phase (Nyquist 1932)
            </li>
          </ul>
          {found ? (
            <p>
              Found by runs on a straight edge, the gain higher and higher: it just keeps swinging at{' '}
              <strong className="font-mono">{formatNumber(found.gain, 2)}</strong>, once in{' '}
              <strong className="font-mono">{formatNumber(found.periodS, 2)} s</strong>
              {loop.critical ? (
                <span className="text-ink-2">
                  {' '}
                  ({apart(found.gain, loop.critical.gain)} and {apart(found.periodS, loop.critical.periodS)})
                </span>
              ) : null}
              . The rules below are worked from these two numbers.
            </p>
          ) : (
            <p>No gain that was tried made it swing for good.</p>
          )}
        </div>
      </section>
      <div className="grid grid-cols-1 gap-3 xl:grid-cols-2">
        {followers.map((follower) => (
          <Follower key={follower.kind} follower={follower} longestS={longestS} />
        ))}
      </div>
    </div>
  );
}

function MoreBench({ lesson, known }: { lesson: Lesson; known: KnownRobot }) {
  const [speed, setSpeed] = useState<(typeof speeds)[number]>('20');
  const [page, setPage] = useState<{ speed: string; page: WorkedPage | null } | null>(null);
  const [fault, setFault] = useState('');
  useEffect(() => {
    let stale = false;
    simulation()
      .worked(lesson, known, Number(speed))
      .then(
        (made) => {
          if (!stale) setPage({ speed, page: made });
        },
        (error: unknown) => {
          if (!stale) setFault(sentenceOf(error));
        },
      );
    return () => {
      stale = true;
    };
  }, [lesson, known, speed]);
  return (
    <Panel
      scrolls
      title="What if it were more?"
      aside={`The same channel, the same robot, four scripts. ${lesson.title}, ${known.kit.name}.`}
    >
      <div className="mb-3 flex flex-wrap items-center gap-3">
        <span className="text-ink-2">speed, %</span>
        <Choice label="Speed in percent" options={speeds} value={speed} choose={setSpeed} />
        {page && page.speed !== speed ? <span className="text-ink-2">It runs …</span> : null}
      </div>
      {fault ? (
        <p role="alert" className="text-fault">
          {fault}
        </p>
      ) : !page ? (
        <Loading what="the runs" />
      ) : page.page ? (
        <Worked page={page.page} speed={page.speed} />
      ) : (
        <Empty title="This lesson no longer follows an edge by steering.">
          <p>Bring “{lesson.title}” back as it was shipped to see this page at work.</p>
        </Empty>
      )}
    </Panel>
  );
}

/** Two states, in proportion, with the rate, with the sum: what each does on one channel, and where its numbers come from. */
export default function MoreView() {
  const query = useQuery({
    queryKey: keys.bench(LESSON),
    queryFn: () => api('GET /lessons/:slug/bench', { slug: LESSON }),
  });
  const bench = query.data;
  const known = useMemo(
    (): KnownRobot | null =>
      bench?.kit && bench.lesson.robot
        ? {
            kit: bench.kit,
            build: bench.lesson.robot.build,
            sets: [],
            thresholds: bench.lesson.robot.thresholds,
          }
        : null,
    [bench],
  );
  if (query.isPending) return <Loading what="the lesson" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { lesson, kit } = query.data;
  if (!lesson.robot || !kit || !known)
    return (
      <Empty title="The lesson names no robot.">
        <p>Give “{lesson.title}” a robot in its builder.</p>
      </Empty>
    );
  return <MoreBench lesson={lesson} known={known} />;
}
