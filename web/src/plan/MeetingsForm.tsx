import { CalendarPlus } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { countOf } from '@vigilum/core/quantity';
import type { NewMeetings, Term, YearPlan } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { Labelled, SelectField } from '../ui/fields.tsx';
import { planTouched } from './usePlan.ts';

const WEEKDAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const rhythms = [
  { id: 1, name: 'week' },
  { id: 2, name: '2nd week' },
];

export interface ClassFormProps {
  plan: YearPlan;
  term: Term;
  /** The class that is being planned: the same in both forms. */
  klass: number;
  setKlass: (klass: number) => void;
}

/** When a class meets in a term: weekdays, time, room. */
export function MeetingsForm({ plan, term, klass, setKlass }: ClassFormProps) {
  const [weekdays, setWeekdays] = useState<readonly number[]>([]);
  const [at, setAt] = useState('09:50');
  const [minutes, setMinutes] = useState('50');
  const [everyWeeks, setEveryWeeks] = useState(1);
  const [room, setRoom] = useState('');
  const save = useChange(
    (body: NewMeetings) => api('POST /classes/:id/meetings', { id: klass, body }),
    () => planTouched(klass),
  );
  const n = Number(minutes);
  const good = weekdays.length > 0 && at !== '' && Number.isInteger(n) && n >= 5 && n <= 480;
  const rooms = plan.things.filter(({ kind }) => kind === 'room');
  return (
    <form
      className="flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(
          {
            term: term.id,
            rule: { weekdays: [...weekdays].sort((a, b) => a - b), at, minutes: n, everyWeeks },
            room: room || null,
          },
          {
            onSuccess: ({ ids, off, there }) => {
              const more = [
                off.length > 0 ? `${countOf(off.length, 'day')} off left out` : '',
                there > 0 ? `${there} were there already` : '',
              ].filter((one) => one !== '');
              toast.success(
                `${countOf(ids.length, 'meeting')} laid out${more.length > 0 ? `, ${more.join(', ')}` : ''}.`,
              );
              setWeekdays([]);
            },
          },
        );
      }}
    >
      <SelectField label="class" value={klass} choose={setKlass} options={plan.classes} />
      <div role="group" aria-label="Meets on" className="flex flex-wrap gap-1">
        {WEEKDAYS.map((word, i) => {
          const day = i + 1;
          const on = weekdays.includes(day);
          return (
            <button
              key={word}
              type="button"
              aria-pressed={on}
              className={`min-h-11 rounded-lg border px-2 ${on ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`}
              onClick={() => setWeekdays(on ? weekdays.filter((one) => one !== day) : [...weekdays, day])}
            >
              {word}
            </button>
          );
        })}
      </div>
      <div className="flex flex-wrap gap-2">
        <Labelled label="begins at">
          <input
            type="time"
            className="input w-36"
            value={at}
            onChange={(event) => setAt(event.target.value)}
          />
        </Labelled>
        <Labelled label="minutes">
          <input
            className="input w-20 font-mono"
            inputMode="numeric"
            value={minutes}
            onChange={(event) => setMinutes(event.target.value)}
          />
        </Labelled>
        <SelectField label="every" value={everyWeeks} choose={setEveryWeeks} options={rhythms} width="w-28" />
        {rooms.length > 0 ? (
          <SelectField
            label="room"
            value={room}
            choose={setRoom}
            options={rooms}
            none="not said"
            clear={() => setRoom('')}
            width="w-40"
          />
        ) : null}
      </div>
      <Button main icon={CalendarPlus} className="w-fit" type="submit" disabled={!good || save.isPending}>
        Lay out the meetings
      </Button>
    </form>
  );
}
