import { Ban, Repeat } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { brokenAt, refusals, sumUp } from '@vigilum/core/expect';
import { runsToReach } from '@vigilum/core/statistics';
import { formatNumber } from '@vigilum/core/quantity';
import {
  runSeed,
  unknownsOf,
  variesInWords,
  type KnownRobot,
  type Lesson,
  type Rehearsal,
} from '@vigilum/core/lesson';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { Figure, Panel } from '../ui/Panel.tsx';
import { useKey } from '../ui/useKey.ts';
import { VerdictChip } from '../ui/verdict.tsx';
import { simulation, type Job } from '../workers/simulation.ts';
import { circumstanceWords, conditionFields, rangeWords } from './conditionWords.ts';
import { ConditionsEditor } from './ConditionsEditor.tsx';
import { Judgements } from './Judgements.tsx';
import { MarginStrip } from './MarginStrip.tsx';
import { PassRate } from './PassRate.tsx';
import { RunGrid } from './RunGrid.tsx';
import { lessonOfRun, RunView } from './RunView.tsx';
import { usePlayback } from './usePlayback.ts';
import { useProof } from './useProof.ts';
import { WhyRefused } from './WhyRefused.tsx';

const verdictTones = { proved: 'done', shaky: 'risk', fails: 'fault', 'cannot tell': 'now' } as const;
const counts = [10, 20, 50, 100, 200, 500];

interface Props {
  lesson: Lesson;
  known: KnownRobot;
  text: string;
  /** A proof of this very script that is on record: shown again at once. */
  recorded: { seed: number; runs: number } | null;
  /** Called when all runs are done; `own` when the conditions are not the lesson's. */
  proved?: (proof: { seed: number; runs: number; conditions: Lesson['conditions'] | null }) => void;
  next?: ReactNode;
}

/** Many seeded runs against what was expected: pass rate, margins, and every run to be looked at. */
export function ProofBench({ lesson: given, known, text, recorded, proved, next }: Props) {
  const [conditions, setConditions] = useState(given.conditions);
  const [wanted, setWanted] = useState(recorded?.runs ?? given.proof.runs);
  const [editing, setEditing] = useState(false);
  const own = JSON.stringify(conditions) !== JSON.stringify(given.conditions);
  const lesson = useMemo(() => (own ? { ...given, conditions } : given), [given, own, conditions]);
  const job = useMemo<Job>(() => ({ lesson, known, text }), [lesson, known, text]);
  const { runs, going, prove, cancel, clear } = useProof();
  const [seed, setSeed] = useState(recorded?.seed ?? given.proof.seed);
  const [chosen, setChosen] = useState<number | null>(null);
  const [replay, setReplay] = useState<Rehearsal | null>(null);
  const [from, setFrom] = useState(0);
  const playback = usePlayback(replay?.evidence ?? null, from);
  const shownLesson = useMemo(() => lessonOfRun(lesson, replay), [lesson, replay]);
  const closeReplay = () => (setReplay(null), setChosen(null));

  const begin = async (from: number, keep: boolean, many = wanted) => {
    closeReplay();
    setSeed(from);
    const whole = await prove(job, from, many);
    if (whole && keep) proved?.({ seed: from, runs: many, conditions: own ? conditions : null });
  };
  const shown = useRef(false);
  useEffect(() => {
    if (shown.current || !recorded) return;
    shown.current = true;
    void begin(recorded.seed, false);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when the page is opened
  }, []);
  const start = () => {
    if (!going) void begin(seed + 1, true);
  };
  useKey('p', start);
  const look = async (runsSeed: number, atS = 0) => {
    setChosen(runsSeed);
    setFrom(atS);
    try {
      setReplay(await simulation().replay(job, runsSeed));
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const proof = runs.length > 0 ? sumUp(runs, lesson.expectations, lesson.proof.bar) : null;
  const complete = runs.length === wanted;
  const needed = runsToReach(lesson.proof.bar);
  const tooFew = complete && proof !== null && proof.passes === proof.runs && wanted < needed;
  // While a proof is still running its worst run changes with every result.
  const refused = useMemo(
    () => (complete && proof?.verdict !== 'proved' ? refusals(runs, lesson.expectations) : []),
    [complete, proof?.verdict, runs, lesson.expectations],
  );
  const moments = useMemo(
    () => replay && shownLesson.expectations.map((e) => brokenAt(e, replay.evidence)),
    [replay, shownLesson],
  );
  const numberOf = (of: number) => Array.from({ length: wanted }, (_, i) => runSeed(seed, i)).indexOf(of) + 1;
  const why = refused.length > 0 && !replay;
  const untold = useMemo(() => unknownsOf(given), [given]);
  const grid = <RunGrid wanted={wanted} seed={seed} runs={runs} look={(of) => void look(of)} />;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_23.5rem] lg:grid-rows-[minmax(0,1fr)]">
      <div className="flex min-h-0 min-w-0 flex-col gap-4">
        {replay && chosen !== null ? (
          <Panel
            title={`Run ${numberOf(chosen)}`}
            aside={[`seed ${chosen}`, replay.task?.drawn, circumstanceWords(replay.circumstances)]
              .filter(Boolean)
              .join('; ')}
            className="flex-1"
          >
            <RunView
              lesson={shownLesson}
              build={known.build}
              kit={known.kit}
              rehearsal={replay}
              playback={playback}
              thresholds={known.thresholds}
              text={text}
            />
          </Panel>
        ) : null}
        <div className={replay ? 'hidden' : 'contents'}>
          {why ? (
            <WhyRefused
              key={`${seed} ${wanted}`}
              job={job}
              refusals={refused}
              runs={runs.length}
              numberOf={numberOf}
              look={(of, atS) => void look(of, atS)}
              className="shrink-0"
            />
          ) : null}
          <Panel
            scrolls
            title="What was expected"
            aside="every mark is one run; press one to replay it"
            className={lesson.expectations.length > 4 ? 'flex-[3]' : ''}
          >
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
                  choose={(of) => void look(of)}
                />
              ))}
              {why ? (
                <section className="mt-3">
                  <h3 className="mb-1 font-bold">All runs</h3>
                  {grid}
                </section>
              ) : null}
            </div>
          </Panel>
          {why ? null : (
            <Panel
              scrolls
              title="All runs"
              className={lesson.expectations.length > 4 ? 'flex-[2]' : 'flex-1'}
            >
              {grid}
            </Panel>
          )}
        </div>
      </div>
      <div className="flex min-h-0 min-w-0 flex-col gap-4">
        <Panel
          title="Does it work, or was it luck?"
          className="flex-1"
          footer={
            <>
              {going ? (
                <Button icon={Ban} key="cancel" onClick={cancel}>
                  Cancel at {runs.length} of {wanted}
                </Button>
              ) : (
                <Button main key="prove" onClick={start}>
                  Prove with {wanted} runs <kbd className="kbd">P</kbd>
                </Button>
              )}
              {proof?.worstSeed !== undefined && proof?.worstSeed !== null && !going ? (
                <Button icon={Repeat} onClick={() => void look(proof.worstSeed!)}>
                  Replay the worst run
                </Button>
              ) : null}
              {replay ? <Button onClick={closeReplay}>All runs</Button> : null}
              {complete && proof?.verdict === 'proved' && !own ? next : null}
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
              <PassRate proof={proof} />
              {tooFew ? (
                <p>
                  All passed, but {wanted} runs are too few to be sure of more than{' '}
                  {formatNumber(100 * lesson.proof.bar, 0)} %: it takes {needed}.{' '}
                  <button
                    type="button"
                    className="min-h-11 font-semibold text-sea underline"
                    onClick={() => {
                      setWanted(needed);
                      void begin(seed + 1, true, needed);
                    }}
                  >
                    Prove with {needed} runs
                  </button>
                </p>
              ) : replay ? null : (
                <p className="text-ink-2">Proved means: the lower end is above the bar.</p>
              )}
            </div>
          ) : (
            <p className="mt-3 text-ink-2">
              {wanted} runs from different places, in different light, with this robot’s own noise.
            </p>
          )}
          {replay ? (
            <div className="mt-3 border-t border-line-soft pt-3">
              <Judgements
                lesson={shownLesson}
                judgements={replay.judgements}
                moments={moments ?? []}
                goTo={playback.seek}
              />
            </div>
          ) : (
            <>
              <Labelled beside label="runs" className="mt-3">
                <select
                  className="input h-11 w-24 font-mono"
                  value={wanted}
                  disabled={going}
                  onChange={(event) => {
                    setWanted(Number(event.target.value));
                    clear();
                  }}
                >
                  {[...new Set([...counts, wanted, needed])]
                    .sort((a, b) => a - b)
                    .map((n) => (
                      <option key={n} value={n}>
                        {n}
                      </option>
                    ))}
                </select>
              </Labelled>
              <details
                className="mt-1"
                open={editing}
                onToggle={(event) => setEditing(event.currentTarget.open)}
              >
                <summary className="min-h-11 cursor-pointer py-2.5 font-bold">
                  What varies from run to run{own ? ' (your own)' : ''}
                </summary>
                {editing ? (
                  <ConditionsEditor
                    conditions={conditions}
                    usual={given.conditions}
                    change={(changed) => {
                      cancel();
                      clear();
                      setConditions(changed);
                    }}
                  />
                ) : null}
              </details>
              {editing ? null : (
                <dl className="grid grid-cols-[minmax(0,auto)_auto] justify-start gap-x-4">
                  <dt className="text-ink-2">starts</dt>
                  <dd className="font-mono">{lesson.course.starts.map((s) => s.name).join(', ')}</dd>
                  {variesInWords(lesson).map(({ says, range }) => (
                    <div key={says} className="contents">
                      <dt className="text-ink-2">{says}</dt>
                      <dd className="font-mono whitespace-nowrap">{range}</dd>
                    </div>
                  ))}
                  {conditionFields.map((field) => {
                    const told = rangeWords(field, conditions);
                    return told ? (
                      <div key={field.id} className="contents">
                        <dt className="text-ink-2">{field.name}</dt>
                        <dd className="font-mono whitespace-nowrap">{told}</dd>
                      </div>
                    ) : null;
                  })}
                </dl>
              )}
              <details className="mt-1">
                <summary className="min-h-11 cursor-pointer py-2.5 font-bold">
                  What no simulated run tells here ({untold.length})
                </summary>
                <ul className="flex flex-col gap-1">
                  {untold.map(({ id, says }) => (
                    <li key={id}>{says}</li>
                  ))}
                </ul>
                <Link
                  className="inline-block min-h-11 content-center font-semibold text-sea underline"
                  to="/workings/simulator"
                >
                  How it shows on the floor
                </Link>
              </details>
            </>
          )}
        </Panel>
      </div>
    </div>
  );
}
