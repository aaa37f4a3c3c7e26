import { Archive, ArchiveRestore, Copy, Pencil, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { ClassChange, ClassDetail } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { useMayRemove } from '../data/teacherOf.ts';
import { useRemoval } from '../data/removal.ts';
import { Dialog } from '../ui/Dialog.tsx';

/** Asks for a name, of a class that is there or of its copy. */
function NameDialog({
  title,
  word,
  start,
  school,
  close,
  done,
}: {
  title: string;
  word: string;
  start: string;
  /** The school’s name, where it may be changed as well. */
  school?: string;
  close: () => void;
  done: (name: string, school: string) => Promise<unknown>;
}) {
  const [name, setName] = useState(start);
  const [of, setOf] = useState(school ?? '');
  const good = name.trim() !== '' && (school === undefined || of.trim() !== '');
  return (
    <Dialog title={title} close={close} width="w-[28rem]">
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (good) void done(name.trim(), of.trim()).then(close, () => undefined);
        }}
      >
        <Labelled label="class">
          <input
            className="input w-full"
            maxLength={80}
            autoComplete="off"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Labelled>
        {school === undefined ? null : (
          <Labelled label="school">
            <input
              className="input w-full"
              maxLength={120}
              autoComplete="off"
              value={of}
              onChange={(event) => setOf(event.target.value)}
            />
          </Labelled>
        )}
        <div>
          <Button main type="submit" disabled={!good}>
            {word}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** What can be done with a class as a whole: renamed, copied for another year, put away, removed. */
export function ClassActions({ klass }: { klass: ClassDetail }) {
  const navigate = useNavigate();
  const mayRemove = useMayRemove()(klass.id);
  const [asks, setAsks] = useState<'name' | 'copy' | null>(null);
  const tells = () => [{ what: 'class' as const, class: klass.id, part: 'teams' as const }];
  const change = useChange((body: ClassChange) => api('PATCH /classes/:id', { id: klass.id, body }), tells);
  const copy = useChange(
    (name: string) => api('POST /classes/:id/copies', { id: klass.id, body: { name } }),
    ({ id }) => [{ what: 'class', class: id, part: 'teams' }],
  );
  const remove = useRemoval('classes', `${klass.name} removed. What was done in its hours is kept.`, tells);
  const putAway = (archived: boolean) =>
    change.mutate(
      { archived },
      {
        onSuccess: () =>
          toast(archived ? `${klass.name} is put away.` : `${klass.name} is back.`, {
            action: { label: 'Undo', onClick: () => change.mutate({ archived: !archived }) },
            duration: 10_000,
          }),
      },
    );
  return (
    <span className="flex flex-wrap gap-2">
      <Button icon={Pencil} onClick={() => setAsks('name')}>
        Rename
      </Button>
      <Button icon={Copy} onClick={() => setAsks('copy')}>
        Copy
      </Button>
      <Button disabled={change.isPending} onClick={() => putAway(!klass.archived)}>
        {klass.archived ? (
          <ArchiveRestore size={18} aria-hidden="true" />
        ) : (
          <Archive size={18} aria-hidden="true" />
        )}
        {klass.archived ? 'Bring back' : 'Put away'}
      </Button>
      {mayRemove ? (
        <Button
          icon={Trash2}
          onClick={() => void remove(klass.id).then((gone) => (gone ? navigate('/start') : undefined))}
        >
          Remove
        </Button>
      ) : null}
      {asks === 'name' ? (
        <NameDialog
          title={`Rename ${klass.name}`}
          word="Rename"
          start={klass.name}
          school={klass.school}
          close={() => setAsks(null)}
          done={(name, school) => change.mutateAsync({ name, school })}
        />
      ) : null}
      {asks === 'copy' ? (
        <NameDialog
          title={`A class like ${klass.name}: its teams and robots, without their record`}
          word="Add the copy"
          start={`${klass.name}, next year`}
          close={() => setAsks(null)}
          done={(name) => copy.mutateAsync(name).then(({ id }) => navigate(`/classes/${id}`))}
        />
      ) : null}
    </span>
  );
}
