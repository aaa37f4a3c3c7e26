import type { ReactNode } from 'react';
import { Button } from '../ui/Button.tsx';
import type { Doc } from './doc.ts';
import type { Happening, Saving } from './machine.ts';

interface Shown<V> {
  state: Saving<V>;
  happen: (event: Happening<V>) => void;
  /** What it is: “this kit”. */
  what: string;
  /** Both sides, so that a person can choose. */
  sides?: (mine: V, theirs: V) => ReactNode;
}

/** What keeps a thing from being saved: a refusal with its reason, or another's save to choose from. Nothing when all is well. */
export function Trouble<V>({ state, happen, what, sides }: Shown<V>) {
  if (state.phase === 'failed')
    return (
      <div role="alert" className="mb-2 border-l-4 border-l-fault bg-sheet px-4 py-2">
        <p className="font-bold">{state.says}</p>
        <ul>
          {state.fields.slice(0, 5).map(({ field, says }) => (
            <li key={field} className="text-ink-2">
              {says}
            </li>
          ))}
        </ul>
      </div>
    );
  if (state.phase !== 'conflict' || !state.theirs) return null;
  return (
    <div role="alert" className="mb-2 flex flex-col gap-2 border-l-4 border-l-fault bg-sheet px-4 py-2">
      <div className="flex flex-wrap items-center gap-3">
        <p>
          <strong>Somebody else changed {what} meanwhile.</strong> Keep one of the two; the other stays among
          the versions.
        </p>
        <Button main onClick={() => happen({ is: 'keep mine' })}>
          Keep mine
        </Button>
        <Button onClick={() => happen({ is: 'take theirs' })}>Take theirs</Button>
      </div>
      {sides?.(state.shown, state.theirs.value)}
    </div>
  );
}

interface OfDoc<Id, V, A extends { revision: number }> extends Omit<Shown<V>, 'state' | 'happen'> {
  doc: Doc<Id, V, A>;
  /** Puts the chosen side on a page that holds its own copy of it. */
  chosen: (value: V, side: 'mine' | 'theirs') => void;
}

/** The same for a thing that is saved by a button, on a page that holds what is typed itself. */
export function DocTrouble<Id, V, A extends { revision: number }>({
  doc,
  chosen,
  ...shown
}: OfDoc<Id, V, A>) {
  return (
    <Trouble
      {...shown}
      state={doc.state}
      happen={(event) => {
        const { theirs, shown: mine } = doc.state;
        doc.happen(event);
        if (event.is === 'take theirs' && theirs) chosen(theirs.value, 'theirs');
        if (event.is === 'keep mine') chosen(mine, 'mine');
      }}
    />
  );
}
