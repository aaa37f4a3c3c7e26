import { trialVerdict, type StoredTrial } from '@vigilum/core/classroom';
import { measureFacts, type FloorMeasure } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { valueOf } from './measured.ts';

/** The last number in what was changed: “threshold 30 to 20” is 20. */
const numberIn = (text: string): number | null => {
  const found = text.match(/-?\d+(?:[.,]\d+)?/g)?.at(-1);
  return found === undefined ? null : Number(found.replace(',', '.'));
};

/** What was changed and what came of it, trial by trial: the walk towards the right value. */
export function TuningWalk({
  trials,
  measure,
}: {
  trials: readonly StoredTrial[];
  measure: FloorMeasure | undefined;
}) {
  const walk: { trial: StoredTrial; nth: number; value: number; says: string }[] = [];
  let value: number | null = null;
  let says = '';
  trials.forEach((trial, i) => {
    const changed = numberIn(trial.changed);
    if (changed !== null) [value, says] = [changed, trial.changed];
    if (value !== null) walk.push({ trial, nth: i + 1, value, says: changed === null ? '' : says });
  });
  if (walk.length < 2) return null;
  const values = walk.map((step) => step.value);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const wide = Math.max(1, walk.length - 1);
  const x = (i: number) => 90 + (i / wide) * 830;
  const y = (v: number) => (high === low ? 90 : 40 + ((high - v) / (high - low)) * 110);
  const unit = measure ? measureFacts[measure].unit : '';
  return (
    <figure className="mt-3">
      <figcaption className="font-bold">The walk: what was changed, and what came of it</figcaption>
      <svg
        viewBox="0 0 1000 230"
        className="w-full"
        role="img"
        aria-label={`The changed value over ${walk.length} trials: ${values.map((v) => formatNumber(v)).join(', ')}.`}
      >
        <g fontFamily="var(--font-sans)" fontSize="20" fill="var(--ink-2)">
          <polyline
            points={walk
              .flatMap((step, i) =>
                i === 0
                  ? [`${x(0)},${y(step.value)}`]
                  : [`${x(i)},${y(walk[i - 1]!.value)}`, `${x(i)},${y(step.value)}`],
              )
              .join(' ')}
            fill="none"
            stroke="var(--signal)"
            strokeWidth="4"
          />
          {walk.map(({ trial, nth, value: v, says: words }, i) => {
            const verdict = trialVerdict(trial);
            const kept = verdict === 'kept';
            const ink = { kept: 'var(--done)', broken: 'var(--fault)', 'not judged': 'var(--ink-2)' }[
              verdict
            ];
            const came = measure ? valueOf(trial, measure) : null;
            return (
              <g key={trial.id} transform={`translate(${x(i)} ${y(v)})`}>
                <circle r="13" fill={kept ? 'var(--done)' : 'var(--sheet)'} stroke={ink} strokeWidth="3" />
                <text y="7" textAnchor="middle" fill={kept ? 'var(--sheet)' : ink} fontWeight="700">
                  {{ kept: '✓', broken: '✕', 'not judged': '–' }[verdict]}
                </text>
                <text y="-22" textAnchor="middle" fill="var(--ink)" fontWeight="700">
                  {formatNumber(v)}
                </text>
                <text y={205 - y(v)} textAnchor="middle">
                  {nth}: {came === null ? '–' : `${formatNumber(came)} ${unit === 'deg' ? '°' : unit}`}
                </text>
                {words ? <title>{words}</title> : null}
              </g>
            );
          })}
        </g>
      </svg>
    </figure>
  );
}
