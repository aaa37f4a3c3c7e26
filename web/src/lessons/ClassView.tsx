import { useQueries } from '@tanstack/react-query';
import { Ban, Users } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { knownRobotOf, type TeamInLesson } from '@vigilum/core/classroom';
import { sentence, sumUp, type JudgedRun } from '@vigilum/core/expect';
import type { Lesson } from '@vigilum/core/lesson';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import { canRun, parseScript } from '@vigilum/core/script';
import { Button } from '../ui/Button.tsx';
import { askWorkspace, useToday } from '../data/queries.ts';
import { Panel } from '../ui/Panel.tsx';
import { Empty } from '../ui/states.tsx';
import { useKey } from '../ui/useKey.ts';
import { useLongWork } from '../ui/useLongWork.ts';
import { VerdictChip } from '../ui/verdict.tsx';
import { simulations, type Job } from '../workers/simulation.ts';
import { useBench } from './LessonLayout.tsx';

const tones = { proved: 'done', shaky: 'risk', fails: 'fault', 'cannot tell': 'now' } as const;
const RUNS = 50;
/** Runs of one team before the next has its turn: every team's first result comes early. */
const CHUNK = 5;

interface Entry {
  id: number;
  name: string;
  /** Null when the team has no script that can run; then `why` says so. */
  job: Job | null;
  why: string;
}

/** A team's newest script on its own robot, judged by the team's own twist of the lesson. */
function entryOf(workspace: TeamInLesson): Entry {
  const { record, team } = workspace;
  const nothing = (why: string): Entry => ({ ...team, job: null, why });
  if (!record.script) return nothing('no script yet');
  const program = parseScript(record.script.text);
  const fault = program.findings.find(({ grade }) => grade === 'fault');
  if (!canRun(program)) return nothing(fault ? `line ${fault.line}: ${fault.says}` : 'no step yet');
  return {
    ...team,
    job: { lesson: record.lesson, known: knownRobotOf(record), text: record.script.text },
    why: '',
  };
}

/** Runs every team's script in turn, shared out among the page's workers; results come as they are made. */
function useClassCheck(lesson: Lesson, entries: readonly Entry[]) {
  const [runs, setRuns] = useState<Readonly<Record<number, JudgedRun[]>>>({});
  const { going, run, cancel } = useLongWork();
  const begin = () => {
    setRuns({});
    const found: Record<number, JudgedRun[]> = {};
    // Team after team, and then round again.
    const tasks: { entry: Entry; from: number }[] = [];
    for (let from = 0; from < RUNS; from += CHUNK)
      for (const entry of entries) if (entry.job) tasks.push({ entry, from });
    return run(async (mine) => {
      await Promise.all(
        simulations().map(async (worker) => {
          for (let task = tasks.shift(); task && mine(); task = tasks.shift()) {
            const { entry, from } = task;
            const some = await worker.proveSome(entry.job!, lesson.proof.seed, from, CHUNK);
            if (!mine()) return;
            found[entry.id] = [...(found[entry.id] ?? []), ...some];
            setRuns({ ...found });
          }
        }),
      );
    });
  };
  return { runs, going, begin, cancel };
}

function Row({ entry, runs, lesson }: { entry: Entry; runs: readonly JudgedRun[]; lesson: Lesson }) {
  const proof = runs.length > 0 ? sumUp(runs, lesson.expectations, lesson.proof.bar) : null;
  const weakest = proof?.each.reduce((a, b, i) => (b.passes < proof.each[a]!.passes ? i : a), 0) ?? 0;
  const broken = proof && proof.each[weakest]!.passes < proof.runs ? proof.each[weakest]! : null;
  const percent = (share: number) => formatNumber(100 * share, 0);
  return (
    <tr className="border-t border-line-soft align-top">
      <th scope="row" className="py-2 pr-4 text-left">
        <Link
          className="inline-flex min-h-11 items-center font-bold text-sea underline"
          to={`/teams/${entry.id}/lessons/${lesson.slug}/prove`}
        >
          {entry.name}
        </Link>
      </th>
      <td className="py-3 pr-4 font-mono whitespace-nowrap">
        {proof ? `${proof.passes}/${proof.runs}` : '–'}
      </td>
      <td className="py-3 pr-4 font-mono whitespace-nowrap">
        {proof ? `${percent(proof.low)} to ${percent(proof.high)} %` : ''}
      </td>
      <td className="py-2 pr-4">
        {proof ? (
          <VerdictChip tone={tones[proof.verdict]}>
            {proof.runs < RUNS ? `${proof.verdict} so far` : proof.verdict}
          </VerdictChip>
        ) : null}
      </td>
      <td className="py-3">
        {entry.job === null ? <span className="text-ink-2">{entry.why}</span> : null}
        {broken ? (
          <>
            {sentence(lesson.expectations[weakest]!, lesson.course)}
            <span className="block text-ink-2">worst: {broken.worstSays}</span>
          </>
        ) : null}
      </td>
    </tr>
  );
}

/** The whole class at once: every team's newest script on its own robot, over the lesson's conditions. */
export default function ClassView() {
  const { lesson } = useBench();
  const today = useToday();
  const teams = useMemo(
    () => (today.data?.periods ?? []).filter((p) => p.lesson.slug === lesson.slug).flatMap((p) => p.teams),
    [today.data, lesson.slug],
  );
  const workspaces = useQueries({
    queries: teams.map(({ id }) => askWorkspace(id, lesson.slug)),
  });
  const loaded = workspaces.flatMap(({ data }) => (data ? [data] : []));
  const entries = loaded.map((workspace) => entryOf(workspace));
  const { runs, going, begin, cancel } = useClassCheck(lesson, entries);
  // Nobody is left out because a tablet's answer was slow: it begins when every team has been asked for.
  const ready = teams.length > 0 && workspaces.every(({ isPending }) => !isPending);
  const able = ready ? entries.filter(({ job }) => job).length : 0;
  const done = Object.values(runs).reduce((sum, list) => sum + list.length, 0);
  const start = () => {
    if (!going && able > 0) void begin();
  };
  useKey('c', start);
  if (teams.length === 0 && !today.isPending) {
    return (
      <Panel className="flex-1">
        <Empty title="No class has this lesson today.">
          <p>Start a period with it, then every team’s script can be checked here at once.</p>
        </Empty>
      </Panel>
    );
  }
  return (
    <Panel
      title="Every team’s script, on its own robot"
      aside={`${RUNS} runs each over the lesson’s conditions; nothing is recorded`}
      className="flex-1"
      footer={
        going ? (
          <Button icon={Ban} key="cancel" onClick={cancel}>
            Cancel at {done} of {able * RUNS}
          </Button>
        ) : (
          <Button main icon={Users} key="begin" disabled={able === 0} onClick={start}>
            Check {countOf(able, 'team')} <kbd className="kbd">C</kbd>
          </Button>
        )
      }
    >
      <div className="relative overflow-x-auto">
        <table className="w-full">
          <thead className="text-left text-ink-2">
            <tr>
              {['team', 'kept', 'pass rate', 'verdict', 'what breaks first'].map((word) => (
                <th key={word} scope="col" className="pr-4 font-semibold whitespace-nowrap">
                  {word}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {entries.map((entry) => (
              <Row
                key={entry.id}
                entry={entry}
                runs={runs[entry.id] ?? []}
                lesson={entry.job?.lesson ?? lesson}
              />
            ))}
          </tbody>
        </table>
      </div>
    </Panel>
  );
}
