import { useState } from 'react';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useProofAsked } from '../data/proof.ts';
import { Dialog } from '../ui/Dialog.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { Refusal } from './Doorway.tsx';

function PasswordOnceMore({ answer }: { answer: (given: boolean) => void }) {
  const [password, setPassword] = useState('');
  const [busy, setBusy] = useState(false);
  const [says, setSays] = useState<string | null>(null);
  return (
    <Dialog title="Type your password" close={() => answer(false)} width="w-[26rem]">
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (busy) return;
          setBusy(true);
          setSays(null);
          api('POST /sessions/mine/proofs', { body: { password } }).then(
            () => answer(true),
            (error: unknown) => {
              setSays(sentenceOf(error));
              setBusy(false);
            },
          );
        }}
      >
        <p>This cannot be undone, or shows secrets. Vigilum asks again in case you left this page open.</p>
        <Labelled label="your password">
          <input
            type="password"
            className="input w-full"
            autoComplete="current-password"
            data-autofocus=""
            maxLength={200}
            value={password}
            onChange={(event) => setPassword(event.target.value)}
          />
        </Labelled>
        <Refusal says={says} />
        <Button main className="w-fit" type="submit" disabled={busy || password === ''}>
          Go on
        </Button>
      </form>
    </Dialog>
  );
}

/** Asks for the password where the server wants it once more; what was pressed then goes on. */
export function ProofDialog() {
  const asked = useProofAsked();
  return asked ? <PasswordOnceMore answer={asked.answer} /> : null;
}
