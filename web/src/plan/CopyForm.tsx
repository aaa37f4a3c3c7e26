import { useState } from 'react';
import { toast } from 'sonner';
import { countOf } from '@vigilum/core/quantity';
import type { Term, TermCopy, YearPlan } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { DayField, SelectField, TextField } from '../ui/fields.tsx';
import { planTouched } from './usePlan.ts';

/** The same term on other days, for the classes that come after: a year is rolled over. */
export function CopyForm({ plan, term, made }: { plan: YearPlan; term: Term; made: (id: number) => void }) {
  const [name, setName] = useState('');
  const [from, setFrom] = useState('');
  const [to, setTo] = useState<Readonly<Record<number, number | ''>>>({});
  const copy = useChange(
    (body: TermCopy) => api('POST /terms/:id/copies', { id: term.id, body }),
    () => planTouched(),
  );
  // Whoever is put away by now had it too: its plan is taken over by those who come after.
  const here = (id: number) => plan.classes.some((one) => one.id === id);
  const nextOf = ({ id }: { id: number }) => to[id] ?? (here(id) ? id : '');
  const classes = term.classes.flatMap((one) => {
    const next = nextOf(one);
    return next === '' ? [] : [{ from: one.id, to: next }];
  });
  return (
    <>
      <TextField label="name of the new term" most={60} value={name} change={setName} />
      <DayField label="its first day" value={from} change={setFrom} />
      {term.classes.map((one) => (
        <SelectField
          key={one.id}
          label={`the plan of ${one.name} goes to`}
          value={nextOf(one)}
          choose={(id) => setTo({ ...to, [one.id]: id })}
          options={plan.classes}
          none="nobody"
          clear={() => setTo({ ...to, [one.id]: '' })}
        />
      ))}
      <Button
        main
        className="w-fit"
        disabled={copy.isPending || name.trim() === '' || from === '' || classes.length === 0}
        onClick={() =>
          copy.mutate(
            { name: name.trim(), from, classes },
            {
              onSuccess: ({ id, meetings, hours, over }) => {
                made(id);
                toast.success(
                  `${name.trim()}: ${countOf(meetings, 'meeting')}, ${countOf(hours, 'lesson')}${over.length > 0 ? `; no room for ${over.join(', ')}` : ''}.`,
                );
              },
            },
          )
        }
      >
        Copy the plan
      </Button>
    </>
  );
}
