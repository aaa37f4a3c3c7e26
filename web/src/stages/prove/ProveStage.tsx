import { Ban, Repeat } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { passed, sumUp, type JudgedRun } from '@vigilum/core/expect';
import type { Rehearsal } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { canRun, parseScript } from '@vigilum/core/script';
import { post } from '../../data/api.ts';
import { sentenceOf, useChange } from '../../data/queries.ts';
import { Judgements } from '../../run/Judgements.tsx';
import { RunView } from '../../run/RunView.tsx';
import { usePlayback } from '../../run/usePlayback.ts';
import { Figure, Panel } from '../../ui/Panel.tsx';
import { useKey } from '../../ui/useKey.ts';
import { VerdictChip } from '../../ui/verdict.tsx';
import { simulation, type Job } from '../../workers/simulation.ts';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';
import { NotRunnable } from '../try/TryStage.tsx';
import { MarginStrip } from './MarginStrip.tsx';

const verdictTones = { proved: 'done', shaky: 'risk', fails: 'fault', 'cannot tell': 'now' } as const;
/** Runs judged between two looks at the cancel button. */
const CHUNK = 4;

function Conditions({ context }: { context: StageContext }) {
  const { conditions, course } = context.record.lesson;
  const range = ([low, high]: [number, number], unit: string) =>
    `${formatNumber(low)} to ${formatNumber(high)} ${unit}`;
  const rows: [string, string][] = [
    ['starts', course.starts.map((s) => s.name).join(', ')],
    ['moved along', range(conditions.alongMm, 'mm')],
    ['moved aside', range(conditions.acrossMm, 'mm')],
    ['turned', range(conditions.bearingDeg, '°')],
    ['room light', range(conditions.lightShift, 'points')],
    ['wheels differ', range([conditions.mismatch[0] * 100, conditions.mismatch[1] * 100], '%')],
  ];
  return (
    <details className="mt-3">
      <summary className="min-h-11 cursor-pointer py-2.5 font-bold">What varies from run to run</summary>
      <dl className="grid grid-cols-[auto_1fr] gap-x-4">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-ink-2">{name}</dt>
            <dd className="font-mono">{value}</dd>
          </div>
        ))}
        <dt className="text-ink-2">noise</dt>
        <dd>as this robot’s own readings scatter</dd>
      </dl>
    </details>
  );
}

function Ready({ context, script }: { context: StageContext; script: { version: number; text: string } }) {
  const { record, known, api, proof: recorded } = context;
  const { lesson, build } = record;
  const wanted = lesson.proof.runs;
  const job = useMemo<Job>(() => ({ lesson, known, text: script.text }), [lesson, known, script.text]);
  const [runs, setRuns] = useState<(JudgedRun & { ok: boolean })[]>([]);
  const [going, setGoing] = useState(false);
  const cancelled = useRef(false);
  const [chosen, setChosen] = useState<number | null>(null);
  const [replay, setReplay] = useState<Rehearsal | null>(null);
  const playback = usePlayback(replay?.evidence ?? null);
  const save = useChange((body: object) => post(`${api}/proofs`, body));

  const prove = async (seed: number, keep: boolean) => {
    cancelled.current = false;
    setGoing(true);
    setRuns([]);
    setReplay(null);
    setChosen(null);
    const done: (JudgedRun & { ok: boolean })[] = [];
    try {
      while (done.length < wanted && !cancelled.current) {
        done.push(
          ...(await simulation().proveSome(job, seed, done.length, Math.min(CHUNK, wanted - done.length))),
        );
        setRuns([...done]);
      }
      if (done.length === wanted && keep) save.mutate({ scriptVersion: script.version, seed, runs: wanted });
    } catch (error) {
      toast.error(sentenceOf(error));
    } finally {
      setGoing(false);
    }
  };
  // A proof of this very script that is on record is shown again: same seed, same runs.
  const shown = useRef('');
  useEffect(() => {
    const key = `${script.version}`;
    if (shown.current === key) return;
    shown.current = key;
    if (recorded && recorded.scriptVersion === script.version) void prove(recorded.seed, false);
    else setRuns([]);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once for each script version
  }, [script.version]);

  const start = () => {
    if (!going) void prove((recorded?.seed ?? lesson.proof.seed - 1) + 1, true);
  };
  useKey('p', start);
  const look = async (seed: number) => {
    setChosen(seed);
    try {
      setReplay(await simulation().replay(job, seed));
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const proof = runs.length > 0 ? sumUp(runs, lesson.expectations, lesson.proof.bar) : null;
  const complete = runs.length === wanted;
  const percent = (share: number) => formatNumber(100 * share, 0);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_23.5rem] lg:grid-rows-[minmax(0,1fr)]">
      <div className="flex min-h-0 min-w-0 flex-col gap-4">
        {replay && chosen !== null ? (
          <Panel
            title={`Run ${runs.findIndex((r) => r.seed === chosen) + 1}`}
            aside={`seed ${chosen}; room light ${formatNumber(Math.abs(replay.circumstances.lightShift))} points ${replay.circumstances.lightShift < 0 ? 'darker' : 'brighter'} than when it was read`}
            className="flex-1"
          >
            <RunView
              lesson={lesson}
              build={build}
              rehearsal={replay}
              playback={playback}
              threshold={record.threshold?.value ?? null}
              text={script.text}
            />
          </Panel>
        ) : null}
        <div className={replay ? 'hidden' : 'contents'}>
          <Panel title="What was expected" aside="every mark is one run; press one to replay it">
            <div>
              <p className="grid grid-cols-3 text-sm text-ink-2" aria-hidden="true">
                <span>◂ broken</span>
                <span className="text-center text-signal">just kept</span>
                <span className="text-right">kept, with room to spare ▸</span>
              </p>
              {lesson.expectations.map((expectation, i) => (
                <MarginStrip
                  key={i}
                  lesson={lesson}
                  expectation={expectation}
                  index={i}
                  runs={runs}
                  chosen={chosen}
                  choose={(seed) => void look(seed)}
                />
              ))}
            </div>
          </Panel>
          <Panel title="All runs" className="flex-1">
            <ol className="grid grid-cols-5 gap-2 sm:grid-cols-10">
              {Array.from({ length: wanted }, (_, i) => {
                const run = runs[i];
                return (
                  <li key={i}>
                    <button
                      type="button"
                      disabled={!run}
                      onClick={() => run && void look(run.seed)}
                      aria-label={`Run ${i + 1}: ${run ? (run.ok ? 'kept all' : 'broke one') : 'not run'}. Replay it.`}
                      className={`grid min-h-11 w-full place-items-center rounded-lg font-mono font-bold ${run ? (passed(run) ? 'bg-done-soft text-done' : 'bg-fault-soft text-fault') : 'bg-line-soft text-ink-2'}`}
                    >
                      {run ? (run.ok ? '✓' : '✕') : '·'} {i + 1}
                    </button>
                  </li>
                );
              })}
            </ol>
          </Panel>
        </div>
      </div>
      <div className="flex min-h-0 min-w-0 flex-col gap-4">
        <Panel
          title="Does it work, or was it luck?"
          className="flex-1"
          footer={
            <>
              {going ? (
                <button
                  key="cancel"
                  type="button"
                  className="btn btn-plain"
                  onClick={() => (cancelled.current = true)}
                >
                  <Ban size={18} aria-hidden="true" /> Cancel at {runs.length} of {wanted}
                </button>
              ) : (
                <button key="prove" type="button" className="btn btn-primary" onClick={start}>
                  Prove with {wanted} runs <kbd className="kbd">P</kbd>
                </button>
              )}
              {proof?.worstSeed !== undefined && proof?.worstSeed !== null && !going ? (
                <button type="button" className="btn btn-plain" onClick={() => void look(proof.worstSeed!)}>
                  <Repeat size={18} aria-hidden="true" /> Replay the worst run
                </button>
              ) : null}
              {replay ? (
                <button
                  type="button"
                  className="btn btn-plain"
                  onClick={() => (setReplay(null), setChosen(null))}
                >
                  All runs
                </button>
              ) : null}
              {complete && proof?.verdict === 'proved' ? <NextStage to="floor">On to Floor</NextStage> : null}
            </>
          }
        >
          <Figure
            label={`runs that kept all ${lesson.expectations.length}`}
            value={proof ? `${proof.passes}/${proof.runs}` : '–'}
          />
          {proof ? (
            <div className="mt-3 flex flex-col gap-2">
              <div>
                <VerdictChip tone={verdictTones[proof.verdict]}>
                  {complete ? proof.verdict : `${proof.verdict} so far`}
                </VerdictChip>
              </div>
              <div
                className="relative mt-5 h-3 rounded-full bg-line-soft"
                role="img"
                aria-label={`Pass rate between ${percent(proof.low)} and ${percent(proof.high)} percent`}
              >
                <span
                  className="absolute inset-y-0 rounded-full bg-sea"
                  style={{ left: `${100 * proof.low}%`, right: `${100 - 100 * proof.high}%` }}
                />
                <span
                  className="absolute -top-1.5 h-6 w-0.5 bg-signal"
                  style={{ left: `${100 * proof.bar}%` }}
                />
                <span
                  className="absolute -top-6 -translate-x-1/2 text-sm whitespace-nowrap text-signal"
                  style={{ left: `${100 * proof.bar}%` }}
                >
                  bar {percent(proof.bar)} %
                </span>
              </div>
              <p>
                The true pass rate lies between{' '}
                <strong className="whitespace-nowrap">{percent(proof.low)} %</strong> and{' '}
                <strong className="whitespace-nowrap">{percent(proof.high)} %</strong>
                <span className="text-ink-2"> (19 times in 20).</span>
              </p>
              {replay ? null : <p className="text-ink-2">Proved means: the lower end is above the bar.</p>}
            </div>
          ) : (
            <p className="mt-3 text-ink-2">
              {wanted} runs from different places, in different light, with this robot’s own noise.
            </p>
          )}
          {replay ? null : <Conditions context={context} />}
          {replay ? (
            <div className="mt-3 border-t border-line-soft pt-3">
              <Judgements lesson={lesson} judgements={replay.judgements} />
            </div>
          ) : null}
        </Panel>
      </div>
    </div>
  );
}

/** Stage 6: many seeded runs against what was expected. */
export default function ProveStage() {
  const context = useStage();
  const { script } = context.record;
  if (!script || !canRun(parseScript(script.text))) return <NotRunnable context={context} />;
  return <Ready key={script.version} context={context} script={script} />;
}
