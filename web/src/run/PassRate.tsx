import type { Proof } from '@vigilum/core/expect';
import { formatNumber } from '@vigilum/core/quantity';

const percent = (share: number) => formatNumber(100 * share, 0);

/** A pass rate with its interval against the bar. */
export function PassRate({ proof }: { proof: Pick<Proof, 'low' | 'high' | 'bar'> }) {
  const { low, high, bar } = proof;
  return (
    <>
      <div
        className="relative mt-5 h-3 rounded-full bg-line-soft"
        role="img"
        aria-label={`Pass rate between ${percent(low)} and ${percent(high)} percent`}
      >
        <span
          className="absolute inset-y-0 rounded-full bg-sea"
          style={{ left: `${100 * low}%`, right: `${100 - 100 * high}%` }}
        />
        <span className="absolute -top-1.5 h-6 w-0.5 bg-signal" style={{ left: `${100 * bar}%` }} />
        <span
          className="absolute -top-6 -translate-x-1/2 text-sm whitespace-nowrap text-signal"
          style={{ left: `${100 * bar}%` }}
        >
          bar {percent(bar)} %
        </span>
      </div>
      <p>
        The true pass rate lies between <strong className="whitespace-nowrap">{percent(low)} %</strong> and{' '}
        <strong className="whitespace-nowrap">{percent(high)} %</strong>
        <span className="text-ink-2"> (19 times in 20).</span>
      </p>
    </>
  );
}
