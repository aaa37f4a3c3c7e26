import { useState } from 'react';
import type { SignIn } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { Refusal } from './Doorway.tsx';

/** Name and password: to sign in, or of a new account. */
export function CredentialsForm({
  word,
  isNew = false,
  school,
  code: printed,
  send,
}: {
  word: string;
  isNew?: boolean;
  /** Where there are several schools: the short name to begin with. */
  school?: string | undefined;
  /** For the first account: the printed code to begin with. */
  code?: string | undefined;
  send: (credentials: SignIn & { code?: string }) => Promise<unknown>;
}) {
  const [name, setName] = useState('');
  const [slug, setSlug] = useState(school ?? '');
  const [code, setCode] = useState(printed ?? '');
  const [password, setPassword] = useState('');
  const [shown, setShown] = useState(false);
  const [busy, setBusy] = useState(false);
  const [says, setSays] = useState<string | null>(null);
  return (
    <form
      className="flex flex-col gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (busy) return;
        setBusy(true);
        setSays(null);
        send({
          name: name.trim(),
          password,
          ...(school === undefined ? {} : { school: slug.trim() }),
          ...(printed === undefined ? {} : { code: code.trim() }),
        })
          .catch((error: unknown) => setSays(sentenceOf(error)))
          .finally(() => setBusy(false));
      }}
    >
      {printed === undefined ? null : (
        <Labelled label="the code for the first account">
          <input
            className="input w-full font-mono"
            name="code"
            autoComplete="off"
            autoCapitalize="none"
            spellCheck={false}
            maxLength={80}
            required
            autoFocus={printed === ''}
            value={code}
            onChange={(event) => setCode(event.target.value)}
          />
          <span className="text-ink-2">
            Vigilum prints it when it starts. To see it again there, run{' '}
            <code className="font-mono whitespace-nowrap">npm run account -- add</code>
          </span>
        </Labelled>
      )}
      {school === undefined ? null : (
        <Labelled label="your school’s short name">
          <input
            className="input w-full font-mono"
            name="school"
            autoComplete="organization"
            autoCapitalize="none"
            spellCheck={false}
            maxLength={40}
            required
            autoFocus={school === ''}
            value={slug}
            onChange={(event) => setSlug(event.target.value)}
          />
        </Labelled>
      )}
      <Labelled label="your name, as colleagues know you">
        <input
          className="input w-full"
          autoComplete="username"
          maxLength={60}
          required
          autoFocus={school !== '' && printed !== ''}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Labelled>
      <div className="flex flex-col gap-0.5">
        <label htmlFor="password" className="text-ink-2">
          {isNew ? 'a password of at least 10 characters' : 'password'}
        </label>
        <span className="flex gap-2">
          <input
            id="password"
            className="input min-w-0 flex-1"
            type={shown ? 'text' : 'password'}
            autoComplete={isNew ? 'new-password' : 'current-password'}
            maxLength={200}
            required
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
          <Button aria-pressed={shown} onClick={() => setShown(!shown)}>
            {shown ? 'Hide' : 'Show'}
          </Button>
        </span>
        {isNew ? (
          <span className="text-ink-2">Three words that have nothing to do with each other work well.</span>
        ) : null}
      </div>
      <Refusal says={says} />
      <Button main type="submit" disabled={busy}>
        {busy ? 'One moment …' : word}
      </Button>
    </form>
  );
}
