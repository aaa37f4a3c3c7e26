import { Hand, Megaphone, Play } from 'lucide-react';
import { useState } from 'react';
import type { HourRun } from '@vigilum/contract/types';
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
        <label className="flex flex-col gap-0.5">
          <span className="text-ink-2">what all tablets say</span>
          <input
            className="input w-full text-lg"
            data-autofocus=""
            maxLength={300}
            value={says}
            onChange={(event) => setSays(event.target.value)}
          />
        </label>
        <button type="submit" className="btn btn-primary w-fit">
          {word}
        </button>
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
        <button type="button" className="btn btn-plain" onClick={() => setOpen('stop')}>
          <Hand size={18} aria-hidden="true" /> Stop everyone
        </button>
      ) : (
        <button
          type="button"
          className="btn btn-primary"
          onClick={() => running.run.mutate({ stopped: null })}
        >
          <Play size={18} aria-hidden="true" /> Let them go on
        </button>
      )}
      {run.told === null ? (
        <button type="button" className="btn btn-plain" onClick={() => setOpen('tell')}>
          <Megaphone size={18} aria-hidden="true" /> Say to all
        </button>
      ) : (
        <button type="button" className="btn btn-plain" onClick={() => running.run.mutate({ told: null })}>
          <Megaphone size={18} aria-hidden="true" /> Take the sentence off
        </button>
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
