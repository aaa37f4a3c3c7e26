import { formatFixed } from '@vigilum/core/quantity';
import { summaryOf, warnAboutSet, type SensorKind } from '@vigilum/core/sensing';
import type { StoredSet } from '@vigilum/core/classroom';
import { FindingCard } from '../ui/Finding.tsx';
import { ago, useNow } from '../ui/time.ts';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { useRemoveReading } from './saves.ts';

/** One surface: choose it, see what was read, take it back. */
export function SurfaceRow({
  robot,
  surface,
  set,
  how,
  range,
  skew,
  chosen,
  choose,
}: {
  /** Id of the robot that was read. */
  robot: number;
  surface: string;
  set: StoredSet | undefined;
  how: string;
  range: { min: number; max: number; kind: SensorKind };
  skew: number;
  chosen: boolean;
  choose: () => void;
}) {
  const now = useNow(15_000) + skew;
  const s = set && summaryOf(set);
  const take = useRemoveReading('sample-sets', `Readings of the ${surface} removed.`, robot);
  return (
    <li className={`rounded-lg border ${chosen ? 'border-sea bg-sea-soft' : 'border-line'}`}>
      <div className="flex items-center gap-2 pr-1">
        <label className="flex min-h-12 flex-1 cursor-pointer items-center gap-3 px-3 py-1.5">
          <input
            type="radio"
            name="surface"
            className="size-5 accent-(--sea)"
            checked={chosen}
            onChange={choose}
          />
          <span>
            <span className="block font-bold">{surface}</span>
            {s ? (
              <span className="text-ink-2">
                <span className="font-mono">
                  {formatFixed(s.mean, 1)}±{formatFixed(s.sd, 1)}
                </span>
                , n {s.n}, {ago(set.at, now)}
                {set.lightNote ? <span className="block">{set.lightNote}</span> : null}
              </span>
            ) : (
              <span className="text-ink-2">{how}</span>
            )}
          </span>
        </label>
        {set ? (
          <RemoveButton title={`Remove the readings of the ${surface}`} onClick={() => void take(set.id)} />
        ) : null}
      </div>
      {set
        ? warnAboutSet(set, range).map((w) => (
            <div key={w.says} className="px-3 pb-2">
              <FindingCard tone={w.grade} says={w.says} more={w.mend} />
            </div>
          ))
        : null}
    </li>
  );
}
