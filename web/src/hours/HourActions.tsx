import { Clock, Pause, Play, RotateCcw, Square } from 'lucide-react';
import { actionsOf, hourState, type HourAction } from '@vigilum/core/classroom';
import type { Hour, HourChange } from '@vigilum/contract/types';
import { toast } from 'sonner';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useIsStaff } from '../data/me.ts';
import { useChange } from '../data/queries.ts';
import { useRemoval } from '../data/removal.ts';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { useNow } from '../ui/time.ts';

const words: Record<HourAction, { word: string; icon: typeof Play }> = {
  begin: { word: 'Begin', icon: Play },
  pause: { word: 'Pause', icon: Pause },
  resume: { word: 'Resume', icon: Play },
  end: { word: 'End', icon: Square },
  reopen: { word: 'Reopen', icon: RotateCcw },
};
/** Minutes that one press adds. */
const MORE = 5;
const MOST = 480;

/** What can be done with an hour where it is now. Ended by mistake, one press on the message brings it back. */
export function HourActions({
  hour,
  skew,
  removable = false,
}: {
  hour: Hour;
  skew: number;
  removable?: boolean;
}) {
  const isStaff = useIsStaff();
  const now = useNow(5000) + skew;
  const state = hourState(hour, now);
  const tells = () => [{ what: 'class' as const, class: hour.class.id, part: 'period' as const }];
  const change = useChange((body: HourChange) => api('PATCH /periods/:id', { id: hour.id, body }), tells);
  const remove = useRemoval('periods', 'Lesson hour removed. What was done in it is kept.', tells);
  const act = (action: HourAction) =>
    change.mutate(
      { action },
      {
        onSuccess: () => {
          if (action === 'end')
            toast('The hour has ended.', {
              action: { label: 'Reopen', onClick: () => change.mutate({ action: 'reopen' }) },
              duration: 10_000,
            });
        },
      },
    );
  if (!isStaff) return null;
  return (
    <span className="flex flex-wrap items-center gap-1.5">
      {state === 'running' || state === 'over' ? (
        <Button
          icon={Clock}
          disabled={change.isPending || hour.minutes + MORE > MOST}
          onClick={() => change.mutate({ minutes: hour.minutes + MORE })}
        >
          {MORE} min more
        </Button>
      ) : null}
      {actionsOf(state).map((action) => {
        const { word, icon } = words[action];
        return (
          <Button
            key={action}
            main={action === 'begin' || action === 'resume'}
            icon={icon}
            disabled={change.isPending}
            onClick={() => act(action)}
          >
            {word}
          </Button>
        );
      })}
      {removable ? (
        <RemoveButton
          title={`Remove the hour of ${hour.class.name}, ${hour.lesson.title}`}
          onClick={() => void remove(hour.id)}
        />
      ) : null}
    </span>
  );
}
