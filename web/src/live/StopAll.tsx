import { Hand, Megaphone, Play } from 'lucide-react';
import { useState } from 'react';
import type { HourRun } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import type { Running } from './useLive.ts';

const usualStop = 'Stop. Hands off the robot, eyes to the front.';

/** One sentence that is typed or taken as it is. */
function Sentence({
  title,
  word,
  usual,
  send,
  close,
}: {
  title: string;
  word: string;
  usual: string;
  send: (says: string) => void;
  close: () => void;
}) {
  const [says, setSays] = useState(usual);
  return (
    <Dialog title={title} width="w-[34rem]" close={close}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (says.trim() === '') return;
          send(says.trim());
          close();
        }}
      >
        <Labelled label="what all tablets say">
          <input
            className="input w-full text-lg"
            data-autofocus=""
            maxLength={300}
            value={says}
            onChange={(event) => setSays(event.target.value)}
          />
        </Labelled>
        <Button main className="w-fit" type="submit">
          {word}
        </Button>
      </form>
    </Dialog>
  );
}

/** Stop everyone, and a sentence to all. */
export function StopAll({ run, running }: { run: HourRun; running: Running }) {
  const [open, setOpen] = useState<'stop' | 'tell' | null>(null);
  const close = () => setOpen(null);
  return (
    <>
      {run.stopped === null ? (
        <Button icon={Hand} onClick={() => setOpen('stop')}>
          Stop everyone
        </Button>
      ) : (
        <Button main icon={Play} onClick={() => running.run.mutate({ stopped: null })}>
          Let them go on
        </Button>
      )}
      {run.told === null ? (
        <Button icon={Megaphone} onClick={() => setOpen('tell')}>
          Say to all
        </Button>
      ) : (
        <Button icon={Megaphone} onClick={() => running.run.mutate({ told: null })}>
          Take the sentence off
        </Button>
      )}
      {open === 'stop' ? (
        <Sentence
          title="Stop everyone"
          word="Stop all tablets"
          usual={usualStop}
          send={(stopped) => running.run.mutate({ stopped })}
          close={close}
        />
      ) : null}
      {open === 'tell' ? (
        <Sentence
          title="A sentence to all"
          word="Show it on all tablets"
          usual=""
          send={(told) => running.run.mutate({ told })}
          close={close}
        />
      ) : null}
    </>
  );
}
