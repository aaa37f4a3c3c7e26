import { measureFacts, measureSignal, measuresOf, type Lesson, type Rehearsal } from '@vigilum/core/lesson';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';

/** The number typed, in the measure's own unit; null when none was. */
export const predictedNumber = (typed: string): number | null => {
  const value = typed.trim() === '' ? NaN : typedNumber(typed);
  return Number.isFinite(value) && Math.abs(value) <= 100_000 ? value : null;
};

/** What a run came to, in the unit of the lesson's first measure; null when it cannot be told. */
export function outcomeOf(lesson: Lesson, rehearsal: Rehearsal): number | null {
  const [measure] = measuresOf(lesson);
  if (!measure) return null;
  const value = rehearsal.evidence.signals[measureSignal(lesson, measure)]?.values.at(-1);
  if (value === undefined || !Number.isFinite(value) || Math.abs(value) > 50_000) return null;
  return value / measureFacts[measure].perUnit;
}

/** Asks for a prediction before a run, and says afterwards how near it was. */
export function Prediction({
  lesson,
  typed,
  type,
  outcome,
}: {
  lesson: Lesson;
  typed: string;
  type: (text: string) => void;
  /** What the last run came to; null before it. */
  outcome: number | null;
}) {
  const [measure] = measuresOf(lesson);
  if (!measure) return null;
  const { asks, unit } = measureFacts[measure];
  const said = predictedNumber(typed);
  const wrong = typed.trim() !== '' && said === null;
  const withUnit = (value: number) =>
    `${formatNumber(value)}${unit === 'deg' ? '°' : unit ? ` ${unit}` : ''}`;
  return (
    <div>
      <label className="flex items-center gap-x-2">
        <span className="min-w-0 flex-1 text-ink-2">{asks}</span>
        <input
          className="input h-11 w-20 shrink-0 font-mono"
          inputMode="decimal"
          autoComplete="off"
          value={typed}
          aria-invalid={wrong}
          onChange={(event) => type(event.target.value)}
        />
        <span className="text-ink-2">{unit === 'deg' ? '°' : unit}</span>
      </label>
      {wrong ? <p className="text-fault">Type a number, such as 20.</p> : null}
      {said !== null && outcome !== null ? (
        <p>
          You said <strong className="font-mono">{withUnit(said)}</strong>, it was{' '}
          <strong className="font-mono">{withUnit(outcome)}</strong>.
        </p>
      ) : null}
    </div>
  );
}
