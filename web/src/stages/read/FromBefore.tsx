import type { ReadTask } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { asNumber, QUICK_LOOKS, summaryOf, type Sample } from '@vigilum/core/sensing';
import { Button } from '../../ui/Button.tsx';
import { api } from '../../data/api.ts';
import { putSet } from '../../data/patches.ts';
import { useChange } from '../../data/queries.ts';
import { useWhose } from '../../data/whose.ts';
import { whenOf } from '../../hours/when.ts';
import type { Reader } from '../../reading/reader.ts';
import { FindingCard } from '../../ui/Finding.tsx';
import { useStage } from '../../workspace/context.ts';

/** Readings of this robot from another hour: never counted by themselves; five quick looks say whether they still hold. */
export function FromBefore({
  reader,
  tasks,
  take,
  busy,
}: {
  reader: Reader;
  tasks: readonly ReadTask[];
  take: (count: number, done: (samples: Sample[]) => void) => void;
  busy: boolean;
}) {
  const { older, path, robot, sets, record } = useStage();
  const whose = useWhose();
  const carry = useChange(
    (body: { set: number; values: (number | null)[] }) =>
      api('POST /teams/:id/lessons/:slug/carried', { ...path, body }),
    ({ set }, _, client) => putSet(client, robot.id, whose, set),
  );
  const { socket } = record.lesson.need;
  const offered = older.filter(
    ({ set }) =>
      set.socket === socket &&
      set.kind === reader.sensor.kind &&
      set.kind !== 'rgb' &&
      tasks.some(({ surface }) => surface === set.surface) &&
      !sets.some(({ surface }) => surface === set.surface),
  );
  return offered.map(({ set, lesson }) => (
    <div key={set.id} className="mb-3">
      <FindingCard
        tone="now"
        says={`The ${set.surface} read ${formatNumber(summaryOf(set).mean)} ${reader.sensor.unit} on ${whenOf(set.at)}${lesson === null ? '' : `, in ${lesson}`}.`}
        more={`Put the robot over it: ${QUICK_LOOKS} quick looks say whether that still holds.`}
      />
      <Button
        className="mt-1.5"
        disabled={busy || carry.isPending}
        onClick={() =>
          take(QUICK_LOOKS, (looks) => carry.mutate({ set: set.id, values: looks.map(asNumber) }))
        }
      >
        {QUICK_LOOKS} looks at the {set.surface}
      </Button>
    </div>
  ));
}
