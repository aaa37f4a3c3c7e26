import { useState } from 'react';
import { limited, type Limited } from '@vigilum/contract/roles';
import type { NewSchool, SchoolEntry } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { Dialog } from '../ui/Dialog.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { SchoolNames } from './SchoolNames.tsx';

const isGood = (text: string): boolean => /^\s*\d{0,6}\s*$/.test(text) && Number(text) <= 100_000;

/** What a school is called, and how much it may have. An empty limit is none. */
export function SchoolDialog({
  school,
  close,
  saved,
}: {
  school: SchoolEntry;
  close: () => void;
  saved: () => void;
}) {
  const { id, has, most } = school;
  const [name, setName] = useState(school.name);
  const [slug, setSlug] = useState(school.slug);
  const [typed, setTyped] = useState(
    () =>
      Object.fromEntries(limited.map((what) => [what, most[what]?.toString() ?? ''])) as Record<
        Limited,
        string
      >,
  );
  const save = useChange((body: NewSchool) => api('PATCH /schools/:id', { id, body }), saved);
  const good = limited.every((what) => isGood(typed[what]));
  return (
    <Dialog title={school.name} close={close} width="w-[34rem]">
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (!good) return;
          const set = limited.filter((what) => typed[what].trim() !== '');
          const limits = Object.fromEntries(set.map((what) => [what, Number(typed[what])]));
          save.mutate({ name: name.trim(), slug: slug.trim(), most: limits });
        }}
      >
        <SchoolNames name={name} setName={setName} slug={slug} setSlug={setSlug} />
        {slug.trim() === school.slug ? null : (
          <p role="status" className="text-ink-2">
            From now on its people sign in with <code className="font-mono">{slug.trim()}</code>: tell them.
          </p>
        )}
        <fieldset className="flex flex-wrap gap-4">
          <legend className="mb-1 font-semibold">At most</legend>
          {limited.map((what) => (
            <NumberField
              key={what}
              label={`${what}, has ${has[what]}`}
              value={typed[what]}
              change={(text) => setTyped({ ...typed, [what]: text })}
              good={isGood(typed[what])}
              wrong="a whole number, or nothing"
            />
          ))}
        </fieldset>
        <p className="text-ink-2">
          Empty is no limit. What a school has already stays, even above its limit: it only gets no more.
        </p>
        <Button main className="w-fit" type="submit" disabled={!good || save.isPending}>
          Save
        </Button>
      </form>
    </Dialog>
  );
}
