import { useEffect, useMemo, useState } from 'react';
import { Repeat } from 'lucide-react';
import { brokenAt, sentence, type Refusal } from '@vigilum/core/expect';
import type { Lesson, Rehearsal } from '@vigilum/core/lesson';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import { sampleAt } from '@vigilum/core/sim';
import { Button } from '../ui/Button.tsx';
import { FindingCard } from '../ui/Finding.tsx';
import { Panel } from '../ui/Panel.tsx';
import { simulation, type Job } from '../workers/simulation.ts';
import { circumstanceWords } from './conditionWords.ts';
import { lessonOfRun, MatOfRun } from './RunView.tsx';

/** What a run was about when a sentence was broken: the moment, and the step that was being done. */
export interface Moment {
  atS: number;
  sample: number;
  /** The step in words; null when the program was over. */
  step: { line: number; text: string } | null;
}

/** When a sentence was broken in a run; at its end where it could only not be told. */
export function momentOf(rehearsal: Rehearsal, lesson: Lesson, index: number, text: string): Moment {
  const { evidence } = rehearsal;
  const atS = brokenAt(lesson.expectations[index]!, evidence) ?? evidence.timesS.at(-1)!;
  const sample = sampleAt(evidence, atS);
  const line = evidence.signals.line?.values[sample] ?? 0;
  return {
    atS,
    sample,
    step: line > 0 ? { line, text: text.split('\n')[line - 1]?.trim() ?? '' } : null,
  };
}

/** Why a script is not proved, in one look: the sentence, the run, the moment, and the way up to it. */
export function WhyRefused({
  job,
  refusals,
  runs,
  numberOf,
  look,
  className = '',
}: {
  job: Job;
  refusals: readonly Refusal[];
  /** How many runs were judged. */
  runs: number;
  numberOf: (seed: number) => number;
  /** Opens a run at a moment. */
  look: (seed: number, atS: number) => void;
  className?: string;
}) {
  const [index, setIndex] = useState(refusals[0]!.index);
  const shown = refusals.find((one) => one.index === index) ?? refusals[0]!;
  const [replay, setReplay] = useState<Rehearsal | null>(null);
  const { worstSeed } = shown;
  useEffect(() => {
    let mine = true;
    setReplay(null);
    simulation()
      .replay(job, worstSeed)
      .then(
        (made) => mine && setReplay(made),
        // The strips below say what is known; a run that cannot be made again has no picture.
        () => {},
      );
    return () => {
      mine = false;
    };
  }, [job, worstSeed]);
  const lesson = useMemo(() => lessonOfRun(job.lesson, replay), [job.lesson, replay]);
  const expectation = lesson.expectations[shown.index]!;
  const judgement = replay?.judgements[shown.index];
  const moment = useMemo(
    () => replay && momentOf(replay, lesson, shown.index, job.text),
    [replay, lesson, shown.index, job.text],
  );
  const told = shown.broken > 0;
  return (
    <Panel
      title="Why it is not proved"
      aside={`run ${numberOf(worstSeed)} of ${runs}, the worst for this sentence`}
      className={className}
    >
      <div className="flex min-h-0 flex-1 flex-col gap-4 sm:flex-row">
        {replay && moment ? (
          <MatOfRun
            className="min-h-56 min-w-0 flex-1"
            lesson={lesson}
            build={job.known.build}
            rehearsal={replay}
            sample={moment.sample}
            atS={moment.atS}
            over
            label={`The mat of ${lesson.title} with the robot at ${formatNumber(moment.atS, 2)} seconds, where the sentence was broken.`}
          />
        ) : (
          <p className="min-h-48 flex-1 content-center text-center text-ink-2" role="status">
            Making that run again …
          </p>
        )}
        <div className="flex w-full flex-col gap-2 sm:w-[19rem] sm:shrink-0">
          <FindingCard
            tone={told ? 'fault' : 'now'}
            says={sentence(expectation, lesson.course)}
            more={judgement ? `${told ? '' : 'Cannot tell: '}${judgement.says}.` : ''}
          />
          {moment ? (
            <p>
              <span className="font-mono text-2xl font-bold">{formatNumber(moment.atS, 2)}</span>{' '}
              <span className="text-ink-2">s</span>,{' '}
              {moment.step ? (
                <>
                  in line {moment.step.line}: <span className="font-mono">{moment.step.text}</span>
                </>
              ) : (
                'with the program over'
              )}
            </p>
          ) : null}
          <p className="text-ink-2">
            {[
              told
                ? `Broken in ${shown.broken} of ${countOf(runs, 'run')}`
                : `Not to be told in ${shown.unknown} of ${countOf(runs, 'run')}`,
              replay?.task?.drawn,
              replay && circumstanceWords(replay.circumstances),
            ]
              .filter(Boolean)
              .join('; ')}
            .
          </p>
          {moment ? (
            <div>
              <Button icon={Repeat} onClick={() => look(worstSeed, Math.max(0, moment.atS - 1))}>
                Replay the second before it
              </Button>
            </div>
          ) : null}
          {refusals.length > 1 ? (
            <ul className="border-t border-line-soft pt-1" aria-label="Sentences that were not kept">
              {refusals.map((one) => (
                <li key={one.index}>
                  <button
                    type="button"
                    aria-pressed={one.index === shown.index}
                    className={`flex min-h-11 w-full items-baseline gap-2 py-1.5 text-left ${one.index === shown.index ? 'font-bold' : 'text-sea underline'}`}
                    onClick={() => setIndex(one.index)}
                  >
                    <span className="font-mono no-underline">
                      {one.broken > 0 ? `✕ ${one.broken}` : `? ${one.unknown}`}
                    </span>
                    <span>{sentence(job.lesson.expectations[one.index]!, job.lesson.course)}</span>
                  </button>
                </li>
              ))}
            </ul>
          ) : null}
        </div>
      </div>
    </Panel>
  );
}
