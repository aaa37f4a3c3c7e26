import { relativeMargin, sentence, type Expectation, type JudgedRun } from '@vigilum/core/expect';
import { expectationVaries, type Lesson } from '@vigilum/core/lesson';
import { countOf } from '@vigilum/core/quantity';
import { spread } from '../ui/scatter.ts';
import { VerdictMark } from '../ui/verdict.tsx';

/** The margins of all runs for one expectation: right of the signal line is kept, left is broken. */
export function MarginStrip({
  lesson,
  expectation,
  index,
  runs,
  chosen,
  choose,
}: {
  lesson: Lesson;
  expectation: Expectation;
  index: number;
  runs: readonly JudgedRun[];
  chosen: number | null;
  choose: (seed: number) => void;
}) {
  const judged = runs.map((run) => ({ seed: run.seed, ...run.judgements[index]! }));
  const kept = judged.filter((j) => j.verdict === 'holds').length;
  const unknown = judged.filter((j) => j.verdict === 'cannot tell').length;
  const known = judged.filter((j) => j.margin !== null);
  const tone =
    judged.length === 0
      ? 'none'
      : kept === judged.length
        ? 'done'
        : kept + unknown === judged.length
          ? 'now'
          : kept > 0
            ? 'risk'
            : 'fault';
  // Margins far beyond what the expectation allows are drawn at the rim.
  const place = (margin: number) => 50 + 46 * Math.tanh(relativeMargin(expectation, margin) * 0.9);
  const least = known.reduce<(typeof known)[0] | null>(
    (a, b) => (a === null || b.margin! < a.margin! ? b : a),
    null,
  );
  // A run that could not be told may have been broken: it is worse than any that was kept.
  const untold = judged.find((j) => j.verdict === 'cannot tell');
  const worst = untold && least?.verdict !== 'broken' ? untold : least;
  return (
    <div className="border-t border-line-soft py-2 first:border-t-0">
      <div className="flex flex-wrap items-center gap-x-3">
        <VerdictMark tone={tone} />
        <h3 className="font-bold">
          {sentence(expectation, lesson.course)}
          {expectationVaries(lesson, index) ? (
            <span className="font-normal text-ink-2"> (changes from run to run)</span>
          ) : null}
        </h3>
        <span className="ml-auto font-mono">
          {judged.length === 0 ? '–' : `${kept}/${judged.length}`}
          {unknown > 0 ? <span className="text-ink-2"> · {unknown} cannot tell</span> : null}
        </span>
      </div>
      <div
        className="relative mt-1 h-11 rounded-lg bg-paper"
        role="group"
        aria-label={`Margins of ${countOf(judged.length, 'run')}`}
      >
        <span className="absolute inset-y-0 left-1/2 w-0.5 bg-signal" aria-hidden="true" />
        {known.map((j, i) => (
          <button
            key={j.seed}
            type="button"
            tabIndex={-1}
            title={`${j.says} (run ${runs.findIndex((r) => r.seed === j.seed) + 1})`}
            onClick={() => choose(j.seed)}
            // The mark is small; what a finger meets is not.
            className="absolute grid size-6 -translate-1/2 place-items-center"
            style={{ left: `${place(j.margin!)}%`, top: `${50 + spread(i) * 56}%` }}
          >
            <span
              className={`size-3.5 rounded-full border-2 ${j.verdict === 'holds' ? 'border-done bg-done/50' : 'rotate-45 rounded-none border-fault bg-fault/50'} ${chosen === j.seed ? 'ring-3 ring-ink' : ''}`}
            />
          </button>
        ))}
      </div>
      {worst ? <p className="mt-0.5 text-ink-2">worst: {worst.says}</p> : null}
    </div>
  );
}
