import { useState } from 'react';
import { limited, type Limited } from '@vigilum/contract/roles';
import type { SchoolEntry, SchoolLimits } from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { Dialog } from '../ui/Dialog.tsx';
import { NumberField } from '../ui/NumberField.tsx';

const isGood = (text: string): boolean => /^\s*\d{0,6}\s*$/.test(text) && Number(text) <= 100_000;

/** How much a school may have. An empty field is no limit. */
export function LimitsDialog({
  school,
  close,
  saved,
}: {
  school: SchoolEntry;
  close: () => void;
  saved: () => void;
}) {
  const [typed, setTyped] = useState(
    () =>
      Object.fromEntries(limited.map((what) => [what, school.most[what]?.toString() ?? ''])) as Record<
        Limited,
        string
      >,
  );
  const save = useChange(
    (most: SchoolLimits) => api('PATCH /schools/:id', { id: school.id, body: { most } }),
    saved,
  );
  const good = limited.every((what) => isGood(typed[what]));
  return (
    <Dialog title={`Limits of ${school.name}`} close={close} width="w-[32rem]">
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (!good) return;
          const set = limited.filter((what) => typed[what].trim() !== '');
          save.mutate(Object.fromEntries(set.map((what) => [what, Number(typed[what])])));
        }}
      >
        <div className="flex flex-wrap gap-4">
          {limited.map((what) => (
            <NumberField
              key={what}
              label={`${what}, has ${school.has[what]}`}
              value={typed[what]}
              change={(text) => setTyped({ ...typed, [what]: text })}
              good={isGood(typed[what])}
              wrong="a whole number, or nothing"
            />
          ))}
        </div>
        <p className="text-ink-2">
          Empty is no limit. What a school has already stays, even above its limit: it only gets no more.
        </p>
        <button type="submit" className="btn btn-primary w-fit" disabled={!good || save.isPending}>
          Save the limits
        </button>
      </form>
    </Dialog>
  );
}
