import { Plus } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { NewTerm } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { TextField } from '../ui/fields.tsx';
import { DaysFields, noDays } from './DaysFields.tsx';
import { planTouched } from './usePlan.ts';

/** A new term: its name, its first and its last day. */
export function TermForm({ made }: { made: (id: number) => void }) {
  const [name, setName] = useState('');
  const [days, setDays] = useState(noDays);
  const save = useChange(
    (body: NewTerm) => api('POST /terms', { body }),
    () => planTouched(),
  );
  const wrong = days.from !== '' && days.to !== '' && days.to < days.from;
  return (
    <form
      className="flex flex-col gap-2.5"
      onSubmit={(event) => {
        event.preventDefault();
        save.mutate(
          { name: name.trim(), ...days },
          {
            onSuccess: ({ id }) => {
              made(id);
              setName('');
              setDays(noDays);
              toast.success(`${name.trim()} is there. Say now when each class meets.`);
            },
          },
        );
      }}
    >
      <TextField label="name of the term" most={60} value={name} change={setName} />
      <DaysFields {...days} set={setDays} />
      {wrong ? <p className="text-fault">It ends before it begins.</p> : null}
      <Button
        main
        icon={Plus}
        className="w-fit"
        type="submit"
        disabled={save.isPending || name.trim() === '' || days.from === '' || days.to === '' || wrong}
      >
        Add the term
      </Button>
    </form>
  );
}
