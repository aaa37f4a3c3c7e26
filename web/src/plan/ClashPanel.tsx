import { Check, Wrench } from 'lucide-react';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { groupsOf, placesAfter, waysOut, type Clash, type HourChange, type WayOut } from '@vigilum/core/year';
import { countOf } from '@vigilum/core/quantity';
import type { YearPlan } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { Panel } from '../ui/Panel.tsx';
import { clockOf, planTouched, useArrange, type Derived } from './usePlan.ts';
import type { Pick } from './entries.ts';

interface Props {
  plan: YearPlan;
  derived: Derived;
  choose: (pick: Pick) => void;
  show: (at: number) => void;
}

/** So many ways out are shown: the cheapest. */
const SHOWN = 4;

/** The arrangement of one class that some changes come to. */
const arrangementOf = (plan: YearPlan, klass: number, changes: readonly HourChange[]) => {
  const own = plan.hours.filter((hour) => hour.class === klass);
  const mine = changes.filter(({ hour }) => own.some(({ id }) => id === hour));
  return {
    seen: own.flatMap(({ id, meeting }) =>
      mine.some(({ hour }) => hour === id) ? [{ hour: id, meeting }] : [],
    ),
    hours: placesAfter(own, mine),
  };
};

function OneClash({ plan, derived, group, show }: Omit<Props, 'choose'> & { group: readonly Clash[] }) {
  const [open, setOpen] = useState(false);
  const { arrange, busy } = useArrange(plan);
  const clock = clockOf(plan.zone);
  const ways = useMemo(
    () => (open ? waysOut(derived.table, group, clock.day) : []),
    // The clock tells days and does not change what is found.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [open, derived.table, group],
  );
  const at = Math.max(...group[0]!.hours.map((id) => derived.hourById.get(id)?.startsAt ?? group[0]!.from));
  const take = (way: WayOut) => arrange(way.class, arrangementOf(plan, way.class, way.changes), way.says);
  return (
    <li className="border-l-4 border-l-fault py-1.5 pl-3">
      <p className="font-bold">
        <button type="button" className="min-h-11 text-left underline" onClick={() => show(at)}>
          {clock.when(at)}
        </button>
      </p>
      {group.map(({ thing, says }) => (
        <p key={thing}>✕ {says}</p>
      ))}
      {open ? (
        ways.length === 0 ? (
          <p className="text-ink-2">
            No single change helps: no other order, lesson or sharing leaves enough. Try <b>Untangle all</b>,
            move a meeting, or get more.
          </p>
        ) : (
          <ul className="mt-1 flex flex-col gap-1">
            {ways.slice(0, SHOWN).map((way) => (
              <li key={way.says} className="flex items-start gap-2">
                <Button icon={Check} className="shrink-0" disabled={busy} onClick={() => take(way)}>
                  Do
                </Button>
                <span className="pt-1.5">
                  {way.says}
                  {way.of > 0 ? (
                    <span className="text-brass"> △ {countOf(way.of, 'shortage')} left.</span>
                  ) : null}
                </span>
              </li>
            ))}
            {ways.length > SHOWN ? (
              <li className="text-ink-2">{countOf(ways.length - SHOWN, 'dearer way')} more</li>
            ) : null}
          </ul>
        )
      ) : (
        <Button className="mt-1" onClick={() => setOpen(true)}>
          Ways out
        </Button>
      )}
    </li>
  );
}

/** Everything that is wanted more often at a time than it is there, with the cheapest ways out; or all of them untangled at once. */
export function ClashPanel({ plan, derived, show }: Props) {
  const { clashes } = derived;
  const groups = useMemo(() => groupsOf(clashes), [clashes]);
  const { arrange } = useArrange(plan);
  const untangle = useChange(
    () => api('POST /plan/untangling', { body: {} }),
    () => planTouched(),
  );
  if (clashes.length === 0)
    return (
      <Panel className="shrink-0 py-3">
        <p>
          <b className="text-done">✓ Nothing clashes:</b>{' '}
          <span className="text-ink-2">
            robots, mats, chargers and rooms are enough for every hour that is planned.
          </span>
        </p>
      </Panel>
    );
  return (
    <Panel
      className="shrink-0"
      title={countOf(groups.length, 'clash', 'clashes')}
      aside="from now on"
      footer={
        <Button
          icon={Wrench}
          disabled={untangle.isPending}
          onClick={() =>
            untangle.mutate(undefined, {
              onSuccess: ({ ways, changes, left }) => {
                if (ways.length === 0)
                  return void toast(
                    'No order, lesson or sharing leaves enough. Move a meeting, or get more.',
                  );
                for (const klass of new Set(ways.map((way) => way.class)))
                  arrange(
                    klass,
                    arrangementOf(plan, klass, changes),
                    `${ways
                      .filter((way) => way.class === klass)
                      .map(({ says }) => says)
                      .join(
                        ' ',
                      )}${left.length > 0 ? ` Still short: ${countOf(left.length, 'clash', 'clashes')}.` : ''}`,
                  );
              },
            })
          }
        >
          Untangle all
        </Button>
      }
    >
      <ul className="flex flex-col gap-2">
        {groups.slice(0, 12).map((group) => (
          <OneClash key={group[0]!.hours.join(' ')} plan={plan} derived={derived} group={group} show={show} />
        ))}
      </ul>
      {groups.length > 12 ? <p className="text-ink-2">and {groups.length - 12} more</p> : null}
    </Panel>
  );
}
