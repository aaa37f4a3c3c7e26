import { Lightbulb, Send } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import type { HourStep } from '@vigilum/core/hour';
import type { SheetTeam } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import type { Running } from './useLive.ts';

/** Sentences that teachers say again and again. */
const usual = [
  'Read line by line what the robot does.',
  'Change one thing, then run it again.',
  'Look at the last number before it stopped.',
  'Well on the way. Write down what you see.',
];

/** A note to one team, or the next hint of the step that it is at. */
export function SendTo({
  team,
  step,
  running,
  close,
}: {
  team: SheetTeam;
  step: HourStep | undefined;
  running: Running;
  close: () => void;
}) {
  const [says, setSays] = useState('');
  const send = (text: string) =>
    running.send.mutate(
      { team: team.id, kind: 'note', says: text },
      {
        onSuccess: ({ id }) => {
          toast(`${team.name} has your note.`, {
            action: { label: 'Take it back', onClick: () => running.takeBack.mutate(id) },
          });
          close();
        },
      },
    );
  const hint = () =>
    running.send.mutate(
      { team: team.id, kind: 'hint', says: `Your teacher opened a hint at ${step!.word}.`, step: step!.id },
      {
        onSuccess: () => {
          toast(`${team.name} has the next hint of ${step!.word} open.`);
          close();
        },
      },
    );
  return (
    <Dialog title={`To ${team.name}`} width="w-[36rem]" close={close}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (says.trim() !== '') send(says.trim());
        }}
      >
        <Labelled label="a note on its tablet">
          <input
            className="input w-full"
            data-autofocus=""
            maxLength={300}
            value={says}
            onChange={(event) => setSays(event.target.value)}
          />
        </Labelled>
        <span className="flex flex-wrap gap-2">
          <Button main icon={Send} type="submit" disabled={says.trim() === ''}>
            Send the note
          </Button>
          {step ? (
            <Button icon={Lightbulb} onClick={hint}>
              Open the next hint of {step.word}
            </Button>
          ) : null}
        </span>
      </form>
      <ul aria-label="Usual notes" className="mt-3 flex flex-col gap-1.5">
        {usual.map((text) => (
          <li key={text}>
            <Button className="w-full justify-start" onClick={() => send(text)}>
              {text}
            </Button>
          </li>
        ))}
      </ul>
      {team.notes.length > 0 ? (
        <ul aria-label="Sent before" className="mt-3 border-t border-line-soft pt-2 text-ink-2">
          {team.notes.slice(0, 4).map((note) => (
            <li key={note.id}>
              “{note.says}” {note.seenAt === null ? 'not seen yet' : 'seen'}
            </li>
          ))}
        </ul>
      ) : null}
    </Dialog>
  );
}
