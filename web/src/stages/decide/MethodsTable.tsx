import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { formatNumber } from '@vigilum/core/quantity';
import {
  methods,
  type Candidate,
  type MethodName,
  type MissingMethod,
  type Pair,
  type Safety,
} from '@vigilum/core/threshold';
import { perThousand } from '../../ui/perThousand.ts';

export type Choice = MethodName | 'own choice';

export const methodWords: Record<Choice, string> = {
  halfway: 'Halfway',
  'across the edge': 'Across the edge',
  'past the nearest rival': 'Past nearest rival',
  'fewest misreads': 'Fewest misreads',
  'split of a sweep': 'Split of a sweep',
  'change by': 'Change by',
  'two levels': 'Two levels',
  'own choice': 'Own choice',
};

/** When each method is apt, in a sentence or two. */
export const aptWhen = (choice: Choice): string =>
  methods.find(({ name }) => name === choice)?.apt ?? 'A value of your own, judged like the others.';

const sds = (n: number): string => `${formatNumber(n, 0)}sd`;

/** The value as it is typed: a level, a change, or the two levels. */
export const shownValue = (
  candidate: { compare: string; value: number; leave?: number },
  side?: 'low' | 'high',
): string =>
  candidate.compare === 'change'
    ? `${side === 'high' ? '+' : '−'}${formatNumber(candidate.value)}`
    : candidate.leave === undefined
      ? formatNumber(candidate.value)
      : `${formatNumber(candidate.value)} | ${formatNumber(candidate.leave)}`;

function Row({
  name,
  value,
  safety,
  chosen,
  choose,
  note,
  cautious,
}: {
  name: Choice;
  value: string;
  safety: Safety;
  chosen: boolean;
  choose: () => void;
  note: ReactNode;
  /** Names of surfaces that it takes for the wanted one. */
  cautious: readonly string[];
}) {
  const margin = (points: number, n: number) => (
    <td className="pl-3 text-right font-mono whitespace-nowrap">
      {formatNumber(points)} <span className="text-sm text-ink-2">{sds(n)}</span>
    </td>
  );
  return (
    <tr className={`h-11 border-t border-line-soft ${chosen ? 'bg-sea-soft' : ''}`}>
      <th
        scope="row"
        className={`border-l-4 text-left font-normal ${chosen ? 'border-l-sea' : 'border-l-transparent'}`}
      >
        <label className="flex min-h-11 cursor-pointer items-center gap-2 pl-1.5">
          <input
            type="radio"
            name="method"
            className="size-5 shrink-0 accent-(--sea)"
            checked={chosen}
            onChange={choose}
          />
          <span className={`leading-tight whitespace-nowrap ${chosen ? 'font-bold' : ''}`}>
            {methodWords[name]}
            {note}
          </span>
        </label>
      </th>
      <td className="text-right font-mono whitespace-nowrap">
        {cautious.length > 0 ? (
          <span className="text-brass" title={`takes the ${cautious.join(', ')} for it`}>
            △{' '}
          </span>
        ) : null}
        <span className="font-bold">{value}</span>
      </td>
      <td className="pl-2 text-right font-mono">{perThousand(safety.misreadsLow)}</td>
      <td className="text-right font-mono">{perThousand(safety.misreadsHigh)}</td>
      {margin(safety.marginLow, safety.marginLowSds)}
      {margin(safety.marginHigh, safety.marginHighSds)}
      <td className="pr-1.5 text-right font-mono">
        {Number.isFinite(safety.lightShift) ? formatNumber(safety.lightShift) : 'any'}
      </td>
    </tr>
  );
}

/** All methods of threshold for the same readings, side by side. */
export function MethodsTable({
  pair,
  wanted,
  candidates,
  missing,
  own,
  best,
  choice,
  choose,
}: {
  pair: Pair;
  wanted: 'low' | 'high';
  candidates: readonly Candidate[];
  missing: readonly MissingMethod[];
  own: { value: number; safety: Safety; takenFor: string[] };
  best: Candidate;
  choice: Choice;
  choose: (choice: Choice) => void;
}) {
  const head = 'pb-1 pl-2.5 text-right font-semibold';
  return (
    <div className="relative shrink-0 overflow-x-auto">
      <table className="w-full min-w-[37rem]">
        <thead className="text-sm leading-tight text-ink-2">
          <tr>
            <td colSpan={2} />
            <th scope="colgroup" colSpan={2} className="pl-2 text-right font-semibold whitespace-nowrap">
              misreads/1000
            </th>
            <th scope="colgroup" colSpan={2} className="pl-2 text-right font-semibold">
              margin in {pair.unit === '%' ? 'points' : pair.unit || 'points'} and in sd
            </th>
            <td />
          </tr>
          <tr className="align-bottom">
            <th scope="col" className="pb-1 pl-1 text-left font-semibold">
              method
            </th>
            <th scope="col" className={head}>
              value, {pair.unit}
            </th>
            <th scope="col" className={head}>
              {pair.low.name}
            </th>
            <th scope="col" className={head}>
              {pair.high.name}
            </th>
            <th scope="col" className={head}>
              {pair.low.name}
            </th>
            <th scope="col" className={head}>
              {pair.high.name}
            </th>
            <th scope="col" className={`${head} pr-1.5`}>
              light shift survived
            </th>
          </tr>
        </thead>
        <tbody>
          {candidates.map((candidate) => (
            <Row
              key={candidate.method}
              name={candidate.method}
              value={shownValue(candidate, wanted)}
              safety={candidate.safety}
              chosen={choice === candidate.method}
              choose={() => choose(candidate.method)}
              cautious={candidate.takenFor}
              note={
                candidate.method === best.method ? (
                  <span className="block text-sm leading-tight font-normal whitespace-nowrap text-done">
                    recommended
                  </span>
                ) : null
              }
            />
          ))}
          {choice === 'own choice' ? (
            <Row
              name="own choice"
              value={formatNumber(own.value)}
              safety={own.safety}
              chosen={choice === 'own choice'}
              choose={() => choose('own choice')}
              cautious={own.takenFor}
              note={null}
            />
          ) : null}
          {missing.map(({ method, says }) => {
            const swept = method === 'split of a sweep';
            return (
              <tr key={method} className="h-11 border-t border-line-soft text-ink-2">
                <th
                  scope="row"
                  className="border-l-4 border-l-transparent pl-9 text-left font-normal whitespace-nowrap"
                >
                  {methodWords[method]}
                </th>
                <td colSpan={6} className="pl-4 leading-tight">
                  {says}{' '}
                  <Link
                    to={`../read?view=${swept ? 'sweep' : 'surfaces&more'}`}
                    relative="path"
                    className="inline-block min-h-11 content-center font-semibold text-sea underline"
                  >
                    {swept ? 'Sweep' : 'Read it'}
                  </Link>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
