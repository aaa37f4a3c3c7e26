import { useDeferredValue, useMemo, useState } from 'react';
import { Link } from 'react-router';
import { carryOver } from '@vigilum/core/phrasebook';
import { SCRIPT_LIMIT } from '@vigilum/core/script';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { Dialog } from '../ui/Dialog.tsx';
import { useIsStaff } from '../data/me.ts';
import { Failed, Loading } from '../ui/states.tsx';
import { Carried } from './Carried.tsx';
import { usePhrasebooks } from './queries.ts';

/** Carries a program in the kit's own text language over into the script, with what was left behind in sight. */
export function PasteProgram({
  kit,
  use,
  close,
}: {
  kit: { slug: string; name: string };
  use: (text: string) => void;
  close: () => void;
}) {
  const isStaff = useIsStaff();
  const query = usePhrasebooks(kit.slug);
  const [picked, setPicked] = useState<number | null>(null);
  const [typed, setTyped] = useState('');
  const program = useDeferredValue(typed);
  const books = query.data?.phrasebooks ?? [];
  const book = (books.find(({ id }) => id === picked) ?? books[0])?.book;
  const result = useMemo(() => (book ? carryOver(program, book) : null), [program, book]);
  return (
    <Dialog
      title={`Paste a program in the words of ${kit.name}`}
      close={close}
      width="w-[64rem]"
      aside={
        books.length > 1 ? (
          <label className="flex items-center gap-2">
            phrasebook
            <select
              className="input w-auto"
              value={picked ?? books[0]!.id}
              onChange={({ target }) => setPicked(Number(target.value))}
            >
              {books.map(({ id, book: { name } }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        ) : null
      }
    >
      {query.isPending ? <Loading what="the phrasebooks" /> : null}
      {query.isError ? <Failed error={query.error} again={() => void query.refetch()} /> : null}
      {query.data && !book ? (
        <p className="mt-3">
          {kit.name} has no phrasebook yet: nobody has taught Vigilum its words.{' '}
          {isStaff ? (
            <Link className="font-semibold text-sea underline" to={`/kits/${kit.slug}/phrasebook`}>
              Write one
            </Link>
          ) : null}
        </p>
      ) : null}
      {book && result ? (
        <div className="grid gap-4 lg:grid-cols-2">
          <Labelled
            label={
              <>
                Program, {book.syntax === 'c' ? 'C-like' : 'Python-like'}, by the phrasebook “{book.name}”
              </>
            }
            className="gap-1"
          >
            <textarea
              className="input h-auto! w-full flex-1 p-3 font-mono leading-6 whitespace-pre"
              rows={14}
              spellCheck={false}
              autoFocus
              maxLength={SCRIPT_LIMIT.characters}
              value={typed}
              onChange={({ target }) => setTyped(target.value)}
            />
          </Labelled>
          <div>
            <Carried result={result} />
            <Button
              main
              className="mt-3"
              disabled={result.total === 0}
              title="Undo takes it back"
              onClick={() => use(result.text)}
            >
              Use these steps instead of the script
            </Button>
          </div>
        </div>
      ) : null}
    </Dialog>
  );
}
