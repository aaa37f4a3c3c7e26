import { Plus } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { countOf } from '@vigilum/core/quantity';
import type { NewDayOff, YearPlan } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useRemoval } from '../data/removal.ts';
import { useChange } from '../data/queries.ts';
import { TextField } from '../ui/fields.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { DaysFields, noDays, spanWords } from './DaysFields.tsx';
import { planTouched } from './usePlan.ts';

/** Days off: those that are there, one by hand, or many from an iCalendar file after a look at it. */
export function DaysOffForm({ plan }: { plan: YearPlan }) {
  const [name, setName] = useState('');
  const [days, setDays] = useState(noDays);
  const [read, setRead] = useState<{ days: NewDayOff[]; skipped: string[] } | null>(null);
  const remove = useRemoval('days-off', 'The day off is removed; its meetings take place.', () =>
    planTouched(),
  );
  const save = useChange(
    (body: { days: NewDayOff[] }) => api('POST /days-off', { body }),
    () => planTouched(),
  );
  const add = (all: NewDayOff[]) =>
    save.mutate(
      { days: all },
      {
        onSuccess: ({ moved, over }) => {
          setName('');
          setRead(null);
          toast.success(
            `${countOf(all.length, 'day off', 'days off')} kept${moved > 0 ? `; ${countOf(moved, 'meeting')} lost, the lessons moved on` : ''}${over.length > 0 ? `; no room any more for ${over.join(', ')}` : ''}.`,
          );
        },
      },
    );
  const take = async (file: File) => {
    try {
      if (file.size > 250_000) throw new Error('The file is larger than 250 kB: export the holidays alone.');
      setRead(await api('POST /days-off/readings', { body: { text: await file.text() } }));
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const to = days.to || days.from;
  return (
    <>
      <ul>
        {plan.daysOff.map((one) => (
          <li key={one.id} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 truncate">
              {one.name} <span className="text-ink-2">{spanWords(one)}</span>
            </span>
            <RemoveButton title={`Remove ${one.name}, ${one.from}`} onClick={() => void remove(one.id)} />
          </li>
        ))}
      </ul>
      <TextField label="name" most={120} value={name} change={setName} />
      <DaysFields {...days} set={setDays} />
      <div className="flex flex-wrap gap-2">
        <Button
          icon={Plus}
          disabled={save.isPending || name.trim() === '' || days.from === '' || to < days.from}
          onClick={() => add([{ name: name.trim(), from: days.from, to }])}
        >
          Add
        </Button>
        <FileButton
          label="Holidays as an iCalendar file"
          accept=".ics,text/calendar"
          take={(file) => void take(file)}
        >
          From a file (.ics)
        </FileButton>
      </div>
      {read ? (
        <div className="flex flex-col gap-1 border-l-4 border-l-sea bg-sea-soft/60 py-2 pl-3">
          <p className="font-bold">{countOf(read.days.length, 'day off', 'days off')} found</p>
          <ul className="max-h-40 overflow-y-auto" tabIndex={0} aria-label="Days off found">
            {read.days.map((one) => (
              <li key={`${one.name} ${one.from}`}>
                {one.name} <span className="text-ink-2">{spanWords(one)}</span>
              </li>
            ))}
          </ul>
          {read.skipped.length > 0 ? (
            <details>
              <summary className="min-h-11 cursor-pointer py-2">
                {countOf(read.skipped.length, 'event')} left out
              </summary>
              <ul className="text-ink-2">
                {read.skipped.map((says, i) => (
                  <li key={i}>{says}</li>
                ))}
              </ul>
            </details>
          ) : null}
          <div className="flex gap-2">
            <Button main disabled={read.days.length === 0 || save.isPending} onClick={() => add(read.days)}>
              Take them
            </Button>
            <Button onClick={() => setRead(null)}>Leave it</Button>
          </div>
        </div>
      ) : null}
    </>
  );
}
