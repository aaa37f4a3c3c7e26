import { useState } from 'react';
import { api } from '../data/api.ts';
import { Refusal } from '../access/Doorway.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { slugFor } from '../ui/slugFor.ts';
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
      <label className="flex flex-col gap-0.5">
        <span className="text-ink-2">its name</span>
        <input
          className="input w-full"
          maxLength={120}
          required
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label className="flex flex-col gap-0.5">
        <span className="text-ink-2">its short name, typed to sign in; it stays</span>
        <input
          className="input w-full font-mono"
          maxLength={40}
          required
          autoCapitalize="none"
          spellCheck={false}
          value={slug}
          onChange={(event) => setTyped(event.target.value)}
        />
      </label>
      <Refusal says={says} />
      <button type="submit" className="btn btn-primary w-fit" disabled={busy}>
        {busy ? 'One moment …' : 'Make the school'}
      </button>
      <p className="text-ink-2">
        It begins with the kits and lessons that ship with Vigilum. You get a link for its first owner, who
        invites the others.
      </p>
    </form>
  );
}
