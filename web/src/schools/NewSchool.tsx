import { useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { Refusal } from '../access/Doorway.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { slugFor } from '../ui/slugFor.ts';
import { SchoolNames } from './SchoolNames.tsx';
import type { Told } from './SchoolsPage.tsx';

/** Makes a school: its name, and the short one by which its people sign in. */
export function NewSchool({ made }: { made: (told: Told) => void }) {
  const [name, setName] = useState('');
  const [typed, setTyped] = useState<string | null>(null);
  const [says, setSays] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const slug = typed ?? (name.trim() === '' ? '' : slugFor(name, 'school', 40));
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (busy) return;
        setBusy(true);
        setSays(null);
        api('POST /schools', { body: { name: name.trim(), slug } })
          .then(
            (link) => made({ ...link, name: name.trim(), slug }),
            (error: unknown) => setSays(sentenceOf(error)),
          )
          .finally(() => setBusy(false));
      }}
    >
      <SchoolNames name={name} setName={setName} slug={slug} setSlug={setTyped} />
      <Refusal says={says} />
      <Button main className="w-fit" type="submit" disabled={busy}>
        {busy ? 'One moment …' : 'Make the school'}
      </Button>
      <p className="text-ink-2">
        It begins with the kits and lessons that ship with Vigilum. You get a link for its first owner, who
        invites the others.
      </p>
    </form>
  );
}
