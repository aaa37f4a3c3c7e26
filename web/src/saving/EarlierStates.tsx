import { History, RotateCcw } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import type { KeptKind } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { useKeptVersions } from '../data/queries.ts';
import { Dialog } from '../ui/Dialog.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { ago, useNow } from '../ui/time.ts';

interface Shown {
  of: KeptKind;
  /** What names the thing among its kind. */
  id: string;
  /** Shows one state. */
  show: (value: unknown) => ReactNode;
  /** Puts a state on screen; it is saved from there like any change. */
  restore: (value: unknown) => void;
}

function List({ of, id, show, restore }: Shown) {
  const query = useKeptVersions(of, id);
  const now = useNow(15_000);
  if (query.isPending) return <Loading what="what was before" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { versions } = query.data;
  if (versions.length === 0) return <p>It was never changed here. Every save is kept from now on.</p>;
  return (
    <ol className="flex flex-col gap-2">
      {versions.map(({ revision, note, at, value }, i) => (
        <li key={`${revision} ${i}`} className="flex items-start gap-3 border-t border-line-soft pt-2">
          <span className="w-40 shrink-0">
            <strong>{note || (i === 0 ? 'as it is now' : `save ${revision}`)}</strong>
            <span className="block text-ink-2">{ago(at, now)}</span>
          </span>
          <span className="min-w-0 flex-1 break-words whitespace-pre-wrap">{show(value)}</span>
          {i === 0 ? null : (
            <Button icon={RotateCcw} onClick={() => restore(value)}>
              Bring back
            </Button>
          )}
        </li>
      ))}
    </ol>
  );
}

/** What a thing was before, one press away, and the way back to any of it. */
export function EarlierStates({ of, id, show, restore }: Shown) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button icon={History} title="What it was before, and the way back" onClick={() => setOpen(true)}>
        Versions
      </Button>
      {open ? (
        <Dialog title="Versions" width="w-[48rem]" close={() => setOpen(false)}>
          <List
            of={of}
            id={id}
            show={show}
            restore={(value) => {
              setOpen(false);
              restore(value);
            }}
          />
        </Dialog>
      ) : null}
    </>
  );
}
