import { Check, PencilLine, RotateCcw } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import {
  goalsOf,
  knobFactsOf,
  resultsOfRun,
  tunedFault,
  type KnownRobot,
  type Lesson,
} from '@vigilum/core/lesson';
import {
  adviseNext,
  knobsOf,
  resultFacts,
  resultText,
  sideOf,
  trialKnobs,
  usualKnobs,
  walkOf,
  withKnobs,
  type Advice,
  type KnobValues,
  type ResultKey,
  type Results,
  type Trial,
} from '@vigilum/core/tuning';
import { Button } from '../ui/Button.tsx';
import { MatOfRun } from '../run/RunView.tsx';
import { Choice } from '../ui/Choice.tsx';
import { Panel } from '../ui/Panel.tsx';
import { VerdictChip } from '../ui/verdict.tsx';
import { AdviceCard } from './AdviceCard.tsx';
import { KnobScript } from './KnobScript.tsx';
import { KnobSlider } from './KnobSlider.tsx';
import { useLatestRun } from './useLatestRun.ts';
import { WalkView } from './WalkView.tsx';

interface Props {
  lesson: Lesson;
  known: KnownRobot;
  text: string;
  /** All trials so far, oldest first. */
  trials: readonly Trial[];
  /** A run whose numbers rest is to be kept as a trial; `refused` when it was not. */
  ran: (run: { start: string; seed: number; knobs: KnobValues }, refused: () => void) => void;
  /** Writes the script with its new numbers. */
  keep: (text: string) => void;
  keeping: boolean;
  toggle: ReactNode;
  /** What the review says of the script: no number mends a fault. */
  before?: ReactNode;
}

/** Numbers of the run that is shown, with what they were before. */
function Outcome({ lesson, now, before }: { lesson: Lesson; now: Results; before: Results | null }) {
  const goals = goalsOf(lesson);
  const keys = (Object.keys(now) as ResultKey[]).sort(
    (a, b) => Number(goals.some((g) => g.key === b)) - Number(goals.some((g) => g.key === a)),
  );
  return (
    <div className="flex flex-wrap gap-x-7 gap-y-1" aria-label="What came out" role="group">
      {keys.slice(0, 4).map((key) => {
        const goal = goals.find((one) => one.key === key);
        const value = now[key]!;
        const old = before?.[key];
        const missed = goal ? sideOf(goal, value) !== 0 : false;
        return (
          <div key={key} className="min-w-0">
            <div className="text-ink-2">{resultFacts[key].name}</div>
            <div className="flex flex-wrap items-baseline gap-x-2">
              <span className={`font-mono text-2xl font-bold ${missed ? 'text-fault' : ''}`}>
                {missed ? '✕ ' : goal ? '✓ ' : ''}
                {resultText(key, value)}
              </span>
              {old !== undefined && resultText(key, old) !== resultText(key, value) ? (
                <span className="text-ink-2">was {resultText(key, old)}</span>
              ) : null}
            </div>
          </div>
        );
      })}
    </div>
  );
}

/** Numbers of a script as sliders beside its run: what was tried, what came of it, and what to try next. */
export function TuneBench({ lesson, known, text, trials, ran, keep, keeping, toggle, before: said }: Props) {
  const facts = useMemo(() => knobFactsOf(known), [known]);
  const knobs = useMemo(() => knobsOf(text, facts), [text, facts]);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(
    () => new Set(usualKnobs(knobs, 2).map(({ name }) => name)),
  );
  const [values, setValues] = useState<KnobValues>({});
  const [start, setStart] = useState(lesson.course.starts[0]!.name);
  // Beside each other only the numbers differ: start and dice stay.
  const seed = 1;
  const [kept, setKept] = useState('');
  const own = useMemo(
    () =>
      Object.fromEntries(
        Object.entries(values).filter(([name, value]) =>
          knobs.some((knob) => knob.name === name && Math.abs(knob.value - value) > 1e-9),
        ),
      ),
    [values, knobs],
  );
  const tuned = useMemo(() => withKnobs(text, own, facts), [text, own, facts]);
  const cannot = useMemo(() => tunedFault(tuned), [tuned]);
  const job = useMemo(() => (cannot ? null : { lesson, known, text: tuned }), [lesson, known, tuned, cannot]);
  const { rehearsal, text: shownText, fault } = useLatestRun(job, start, seed);
  // Dashed lies the run of the last trial: whoever pulls a slider sees what changes against it.
  const [previous, setPrevious] = useState<typeof rehearsal>(null);
  const keptText = useRef(text);
  const keptRun = useRef<typeof rehearsal>(null);
  useEffect(() => {
    if (rehearsal && shownText === keptText.current) keptRun.current = rehearsal;
  }, [rehearsal, shownText]);
  const goals = useMemo(() => goalsOf(lesson), [lesson]);
  const less: ResultKey = goals.some(({ key }) => key === 'lost') ? 'rms' : 'time';
  const walk = useMemo(() => walkOf(trials, goals, less), [trials, goals, less]);
  const computed = useMemo(
    () =>
      adviseNext({
        trials: trials.filter(({ source }) => source !== 'proof'),
        goals,
        knobs: knobs.map((knob) => ({ ...knob, value: own[knob.name] ?? knob.value })),
        source: 'try',
      }),
    [trials, goals, knobs, own],
  );
  // Until the trial of what was set is in, nothing new can be advised: old trials say nothing of new numbers.
  const [awaited, setAwaited] = useState<{ count: number; advice: Advice } | null>(null);
  const waiting = awaited?.count === trials.length;
  const advice = waiting ? awaited.advice : computed;
  const keepTrial = (changed: KnobValues) => {
    setAwaited({ count: trials.length, advice });
    // What was not kept may be let go of once more.
    ran({ start, seed, knobs: changed }, () => {
      setKept('');
      setAwaited(null);
    });
  };

  const commit = (name: string, value: number) => {
    const next = { ...own, [name]: value };
    const key = JSON.stringify([next, start]);
    const last = trials.at(-1);
    const same =
      key === kept ||
      (last?.source === 'try' &&
        trialKnobs(text, facts, next).every(
          (knob) => last.knobs.find((other) => other.name === knob.name)?.value === knob.value,
        ));
    if (same || tunedFault(withKnobs(text, next, facts))) return;
    setKept(key);
    keptText.current = withKnobs(text, next, facts);
    if (shownText === keptText.current) keptRun.current = rehearsal;
    const changed = Object.fromEntries(
      Object.entries(next).filter(([one, v]) => knobs.some((k) => k.name === one && k.value !== v)),
    );
    keepTrial(changed);
  };
  const turn = (name: string, value: number) => {
    setPrevious(keptRun.current);
    setValues((old) => ({ ...old, [name]: value }));
  };
  const set = (name: string, value: number) => {
    turn(name, value);
    setChosen((old) => (old.has(name) ? old : new Set([...old, name])));
    commit(name, value);
  };
  // A script that was written anew elsewhere has numbers of its own.
  useEffect(() => {
    setValues({});
    setKept('');
    setAwaited(null);
    keptText.current = text;
  }, [text]);

  const moved = Object.keys(own).length;
  const now = rehearsal && resultsOfRun(lesson, rehearsal);
  const before = previous && resultsOfRun(lesson, previous);
  const holds = rehearsal?.judgements.every(({ verdict }) => verdict === 'holds') ?? false;
  const sliders = knobs.filter(({ name }) => chosen.has(name));
  // A long mat is drawn lying, whichever way it is long.
  const ratio = lesson.course.widthMm / lesson.course.heightMm;
  const wide = Math.max(ratio, 1 / ratio) > 1.4;
  const sample = rehearsal ? rehearsal.evidence.timesS.length - 1 : 0;
  return (
    <div
      className={`grid min-h-0 flex-1 grid-cols-1 gap-3 ${
        wide
          ? 'lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[auto_minmax(0,1fr)]'
          : 'lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_24rem] lg:grid-rows-[minmax(0,1fr)]'
      }`}
    >
      <Panel className="py-3">
        <div className="mb-2">{toggle}</div>
        {rehearsal ? (
          <div className="flex min-h-0 flex-1 flex-col gap-2">
            <MatOfRun
              className={wide ? 'h-44 w-full shrink-0' : 'min-h-64 w-full flex-1'}
              lesson={lesson}
              build={known.build}
              rehearsal={rehearsal}
              compared={previous}
              sample={sample}
              atS={rehearsal.evidence.timesS[sample] ?? 0}
              over
              label={`The whole way of this run on the mat of ${lesson.title}${previous ? ', the one before dashed' : ''}.`}
            />
            <div className="flex shrink-0 flex-wrap items-center gap-x-6 gap-y-1">
              {now ? <Outcome lesson={lesson} now={now} before={before} /> : null}
              <VerdictChip tone={holds ? 'done' : 'fault'}>
                {holds ? 'keeps to the lesson' : 'breaks a sentence'}
              </VerdictChip>
            </div>
          </div>
        ) : (
          <p className="text-ink-2">{fault ?? cannot ?? 'It runs …'}</p>
        )}
      </Panel>
      <Panel
        title="Numbers"
        aside="one at a time"
        className={wide ? 'lg:col-start-2 lg:row-span-2 lg:row-start-1' : 'lg:col-start-3 lg:row-start-1'}
        footer={
          <>
            <Button
              main
              icon={PencilLine}
              disabled={moved === 0 || cannot !== null || keeping}
              onClick={() => keep(tuned)}
            >
              Keep in the script
            </Button>
            <Button
              icon={RotateCcw}
              disabled={moved === 0}
              onClick={() => {
                setValues({});
                setKept('');
              }}
            >
              Put back
            </Button>
          </>
        }
      >
        <div className="flex flex-col gap-3 pt-1">
          {said}
          {sliders.length === 0 ? (
            <p className="text-ink-2">
              {knobs.length === 0
                ? 'This script has no number yet.'
                : 'Tap a number of the script below to tune it.'}
            </p>
          ) : null}
          {sliders.map((knob) => (
            <KnobSlider
              key={knob.name}
              knob={knob}
              value={own[knob.name] ?? knob.value}
              change={(value) => turn(knob.name, value)}
              commit={(value) => commit(knob.name, value)}
            />
          ))}
          {(fault ?? cannot) ? (
            <p role="alert" className="text-fault">
              {fault ?? cannot}
            </p>
          ) : null}
          {trials.length === 0 && knobs.length > 0 ? (
            <Button
              icon={Check}
              className="w-fit"
              onClick={() => {
                setKept(JSON.stringify([{}, start]));
                keepTrial({});
              }}
            >
              Take this run as the first trial
            </Button>
          ) : null}
          <AdviceCard advice={advice}>
            {advice.knob !== null && advice.value !== null && advice.what !== 'repeat' ? (
              <Button disabled={waiting} onClick={() => set(advice.knob!, advice.value!)}>
                Try that
              </Button>
            ) : null}
          </AdviceCard>
          {lesson.course.starts.length > 1 ? (
            <div className="flex flex-wrap items-center gap-2">
              <span className="text-ink-2">from start</span>
              <Choice
                label="Start"
                options={lesson.course.starts.map(({ name }) => name)}
                value={start}
                choose={setStart}
              />
            </div>
          ) : null}
          <h3 className="mt-1 font-bold">Tap a number to tune it</h3>
          <KnobScript
            text={text}
            knobs={knobs}
            chosen={chosen}
            toggle={(name) =>
              setChosen((old) => {
                const next = new Set(old);
                if (!next.delete(name)) next.add(name);
                return next;
              })
            }
          />
        </div>
      </Panel>
      <Panel
        className={`min-h-72 py-3 ${wide ? 'lg:col-start-1 lg:row-start-2 lg:min-h-0' : 'lg:col-start-2 lg:row-start-1'}`}
      >
        {walk.length === 0 ? (
          <p className="text-ink-2">
            Every number that you let go of is kept here, with what came out. Change one thing at a time.
          </p>
        ) : (
          <WalkView walk={walk} goals={goals} />
        )}
      </Panel>
    </div>
  );
}
