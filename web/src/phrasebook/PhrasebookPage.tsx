import { Download, Plus, Trash2 } from 'lucide-react';
import { useDeferredValue, useMemo, useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { carryOver, phraseFaults, type Phrasebook } from '@vigilum/core/phrasebook';
import { parseScript } from '@vigilum/core/script';
import { toast } from 'sonner';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange, useKits } from '../data/queries.ts';
import { useRemoval } from '../data/removal.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Choice } from '../ui/Choice.tsx';
import { FileButton } from '../ui/FileButton.tsx';
import { Panel } from '../ui/Panel.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { Carried } from './Carried.tsx';
import type { StoredBook } from '@vigilum/contract/types';
import { EarlierStates } from '../saving/EarlierStates.tsx';
import { phrasebookKind } from '../saving/kinds.ts';
import { Sides } from '../saving/Sides.tsx';
import { DocTrouble } from '../saving/Trouble.tsx';
import { saveNow, useDocOf } from '../saving/useDoc.ts';
import { usePhrasebooks } from './queries.ts';

const MOST_BYTES = 200_000;
const samples: Record<Phrasebook['syntax'], string> = {
  python: 'move(ahead, 30)\nwhile not touching():\n    pause(0.1)\nhalt()\n',
  c: 'int main() {\n  move(ahead, 30);\n  while (!touching()) { pause(0.1); }\n  halt();\n}\n',
};
const blank: Phrasebook = {
  name: 'New phrasebook',
  syntax: 'python',
  declares: [],
  phrases: [{ pattern: 'halt()', says: 'stop' }],
};

/** One phrasebook: its phrases as a table, and a place to try it on a program. */
function BookEditor({
  kit,
  stored,
  onSaved,
}: {
  kit: string;
  stored: StoredBook | null;
  onSaved: (id: number) => void;
}) {
  const [book, setBook] = useState<Phrasebook>(stored?.book ?? blank);
  const [program, setProgram] = useState(samples[book.syntax]);
  const tried = useDeferredValue(program);
  const faults = useMemo(() => phraseFaults(book), [book]);
  const slips = useMemo(() => parseScript(book.declares.join('\n')).findings, [book.declares]);
  const result = useMemo(() => carryOver(tried, book), [tried, book]);
  const changed = !stored || JSON.stringify(stored.book) !== JSON.stringify(book);
  const add = useChange(
    (now: Phrasebook) => api('POST /kits/:slug/phrasebooks', { slug: kit, body: now }),
    () => [{ what: 'phrasebook', kit }],
  );
  const doc = useDocOf(
    phrasebookKind,
    stored && { id: stored.id, kit },
    stored && { revision: stored.revision, value: stored.book },
  );
  const save = async () => {
    if (doc) {
      if (await saveNow(doc, book)) toast('Saved.');
      return;
    }
    add.mutate(book, {
      onSuccess: ({ id }) => {
        toast('Saved.');
        onSaved(id);
      },
    });
  };
  const setPhrase = (i: number, change: Partial<Phrasebook['phrases'][number]>) =>
    setBook({ ...book, phrases: book.phrases.map((one, j) => (j === i ? { ...one, ...change } : one)) });
  const sound = faults.length === 0 && slips.length === 0 && book.name.trim() !== '';
  return (
    <div className="grid grid-cols-1 gap-4 xl:grid-cols-[minmax(0,1fr)_26rem]">
      <Panel title="Phrases" aside={`${book.phrases.length} of at most 200`}>
        <div className="mb-3 flex flex-wrap items-end gap-3">
          <Labelled label="name">
            <input
              className="input w-56"
              maxLength={60}
              value={book.name}
              onChange={({ target }) => setBook({ ...book, name: target.value })}
            />
          </Labelled>
          <Choice
            label="Syntax"
            options={['python', 'c']}
            words={{ python: 'Python-like', c: 'C-like' }}
            value={book.syntax}
            choose={(syntax) => setBook({ ...book, syntax })}
          />
          <Button
            main
            className="ml-auto"
            disabled={!changed || !sound || add.isPending || doc?.state.phase === 'saving'}
            onClick={() => void save()}
          >
            {stored ? 'Save the phrasebook' : 'Add the phrasebook'}
          </Button>
        </div>
        {doc ? (
          <>
            <DocTrouble
              doc={doc}
              chosen={(value) => setBook(value)}
              what="this phrasebook"
              sides={(mine, theirs) => <Sides mine={mine} theirs={theirs} />}
            />
            <div className="mb-2">
              <EarlierStates
                of="phrasebook"
                id={String(doc.id.id)}
                show={(value) =>
                  `${(value as Phrasebook).name}, ${(value as Phrasebook).phrases.length} phrases`
                }
                restore={(value) => setBook(value as Phrasebook)}
              />
            </div>
          </>
        ) : null}
        <p className="mb-2 text-ink-2">
          $name stands for whatever is typed in that place. Several steps stand on several lines.
        </p>
        <ul className="flex flex-col gap-2">
          {book.phrases.map(({ pattern, says }, i) => {
            const wrong = faults.find(({ phrase }) => phrase === i + 1);
            return (
              <li
                key={i}
                className="grid grid-cols-[minmax(0,1fr)_auto_minmax(0,1fr)_auto] items-start gap-2"
              >
                <input
                  className={`input w-full font-mono ${wrong ? 'border-fault' : ''}`}
                  aria-label={`Pattern ${i + 1}`}
                  aria-invalid={!!wrong}
                  maxLength={200}
                  value={pattern}
                  onChange={({ target }) => setPhrase(i, { pattern: target.value })}
                />
                <span className="pt-2.5" aria-hidden="true">
                  →
                </span>
                <textarea
                  className="input h-auto! min-h-11 w-full py-2.5 font-mono leading-5 whitespace-pre-wrap [field-sizing:content]"
                  aria-label={`Says ${i + 1}`}
                  maxLength={500}
                  value={says}
                  onChange={({ target }) => setPhrase(i, { says: target.value })}
                />
                <RemoveButton
                  title={`Remove phrase ${i + 1}`}
                  onClick={() => setBook({ ...book, phrases: book.phrases.filter((_, j) => j !== i) })}
                />
                {wrong ? <p className="col-span-4 font-semibold text-fault">✕ {wrong.says}</p> : null}
              </li>
            );
          })}
        </ul>
        <Button
          icon={Plus}
          className="mt-3 self-start"
          disabled={book.phrases.length >= 200}
          onClick={() => setBook({ ...book, phrases: [...book.phrases, { pattern: '', says: '' }] })}
        >
          Add a phrase
        </Button>
        <Labelled label="declarations that a program begins with when it uses their names" className="mt-4">
          <textarea
            className="input h-auto! w-full py-2.5 font-mono leading-6 whitespace-pre-wrap"
            rows={Math.max(3, book.declares.length + 1)}
            aria-invalid={slips.length > 0}
            value={book.declares.join('\n')}
            onChange={({ target }) => setBook({ ...book, declares: target.value.split('\n').slice(0, 30) })}
            onBlur={() => setBook({ ...book, declares: book.declares.filter((line) => line.trim() !== '') })}
          />
          {slips[0] ? (
            <span className="font-semibold text-fault">
              ✕ line {slips[0].line}: {slips[0].says}
            </span>
          ) : null}
        </Labelled>
      </Panel>
      <Panel title="Try it" aside="nothing is saved here">
        <Labelled label="a program in these words" className="mb-3">
          <textarea
            className="input h-auto! w-full p-3 font-mono leading-6 whitespace-pre"
            rows={9}
            spellCheck={false}
            maxLength={200_000}
            value={program}
            onChange={({ target }) => setProgram(target.value)}
          />
        </Labelled>
        <Carried result={result} />
      </Panel>
    </div>
  );
}

/** The phrasebooks of a kit: the words of its text language, taught by a teacher. */
export default function PhrasebookPage() {
  const { slug = '' } = useParams();
  const [params, setParams] = useSearchParams();
  const kits = useKits();
  const query = usePhrasebooks(slug);
  const remove = useRemoval('phrasebooks', 'Phrasebook removed.', () => [{ what: 'phrasebook', kit: slug }]);
  const add = useChange(
    (book: Phrasebook) => api('POST /kits/:slug/phrasebooks', { slug, body: book }),
    () => [{ what: 'phrasebook', kit: slug }],
  );
  if (query.isPending || kits.isPending) return <Loading what="the phrasebooks" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const kit = kits.data?.kits.find(({ kit: { slug: s } }) => s === slug)?.kit;
  const books = query.data.phrasebooks;
  const wanted = params.get('book');
  const isNew = wanted === 'new';
  const chosen = isNew ? null : (books.find(({ id }) => String(id) === wanted) ?? books[0] ?? null);
  const go = (book: string) => setParams({ book }, { replace: true });
  const take = async (picked: File) => {
    if (picked.size > MOST_BYTES)
      return void toast.error('Nothing was added: a phrasebook file has at most 200 kB.');
    try {
      add.mutate(JSON.parse(await picked.text()) as Phrasebook, { onSuccess: ({ id }) => go(String(id)) });
    } catch {
      toast.error(`Nothing was added: ${picked.name} is no JSON file.`);
    }
  };
  return (
    <main className="flex flex-1 flex-col gap-4 px-6 py-4 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-2">
        <BackLink to="/kits" title="Back to the kits" />
        <h1 className="mr-auto text-title font-bold">Phrasebook of {kit?.name ?? slug}</h1>
        {books.length > 0 || isNew ? (
          <Labelled beside label="phrasebook">
            <select
              className="input w-auto"
              value={isNew ? 'new' : chosen?.id}
              onChange={({ target }) => go(target.value)}
            >
              {books.map(({ id, book: { name } }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
              {isNew ? <option value="new">a new one</option> : null}
            </select>
          </Labelled>
        ) : null}
        <Button icon={Plus} onClick={() => go('new')}>
          New
        </Button>
        <FileButton
          label="Phrasebook file"
          accept=".json,application/json"
          take={(picked) => void take(picked)}
        >
          From a file
        </FileButton>
        {chosen ? (
          <>
            <Button
              icon={Download}
              onClick={() =>
                saveFile(
                  `${chosen.book.name.toLowerCase().replace(/\W+/g, '-')}.phrasebook.json`,
                  'application/json',
                  `${JSON.stringify(chosen.book, null, 2)}\n`,
                )
              }
            >
              Save as JSON
            </Button>
            <Button
              icon={Trash2}
              onClick={() =>
                void remove(chosen.id).then((gone) => (gone ? setParams({}, { replace: true }) : undefined))
              }
            >
              Remove
            </Button>
          </>
        ) : null}
      </header>
      {chosen || isNew ? (
        <BookEditor key={chosen?.id ?? 'new'} kit={slug} stored={chosen} onSaved={(id) => go(String(id))} />
      ) : (
        <Empty title="No phrasebook yet.">
          Teach Vigilum the words of this kit’s text language, and programs written in it can be pasted as
          scripts.
        </Empty>
      )}
    </main>
  );
}
