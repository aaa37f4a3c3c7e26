import { useQuery } from '@tanstack/react-query';
import { Check, RotateCcw } from 'lucide-react';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { countOf } from '@vigilum/core/quantity';
import type { HandedInOfClass } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { useChange, useClass } from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';

interface Answer {
  id: number;
  seen?: true;
  answer?: string;
  again?: boolean;
}

/** What one team handed in, with the teacher's sentence below it. */
function One({ klass, of }: { klass: string; of: HandedInOfClass }) {
  const [text, setText] = useState('');
  const send = useChange(
    ({ id, ...body }: Answer) => api('PATCH /homework/:id', { id, body }),
    () => [{ what: 'class', class: Number(klass), part: 'homework' }],
  );
  const answer = (again: boolean) =>
    send.mutate(
      { id: of.id, again, ...(text.trim() === '' ? { seen: true as const } : { answer: text.trim() }) },
      { onSuccess: () => setText('') },
    );
  return (
    <li className="border-t border-line-soft py-3 first:border-t-0">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <Link
          className="inline-flex min-h-11 items-center font-bold text-sea underline"
          to={`/teams/${of.team.id}/logbook`}
        >
          {of.team.name}
        </Link>
        <span className="text-ink-2">
          {of.lesson.title}, handed in {whenOf(of.handedAt)}
        </span>
      </div>
      {of.task !== '' ? (
        <details>
          <summary className="flex min-h-11 cursor-pointer items-center text-ink-2">what was asked</summary>
          <p className="text-ink-2">{of.task}</p>
        </details>
      ) : null}
      <p className="max-w-[44rem] whitespace-pre-wrap">{of.text}</p>
      {of.answer !== null || of.again ? (
        <p className={`mt-1 border-l-4 pl-3 ${of.again ? 'border-l-brass' : 'border-l-done'}`}>
          <b>{of.again ? '△ Once more.' : '✓'}</b> {of.answer}{' '}
          <span className="text-ink-2">{of.answeredBy}</span>
        </p>
      ) : null}
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <input
          className="input min-w-64 flex-1"
          maxLength={500}
          aria-label={`a sentence to ${of.team.name} on ${of.lesson.title}`}
          placeholder="a sentence to the team"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Button
          main
          icon={Check}
          disabled={send.isPending || (text.trim() === '' && of.seenAt !== null && !of.again)}
          onClick={() => answer(false)}
        >
          {text.trim() === '' ? 'Seen' : 'Answer'}
        </Button>
        <Button
          icon={RotateCcw}
          disabled={send.isPending || (of.again && text.trim() === '')}
          onClick={() => answer(true)}
        >
          Give it back
        </Button>
      </div>
    </li>
  );
}

/** Homework of a class as it was handed in: what nobody has looked at first. */
export default function HomeworkPage() {
  const { id = '' } = useParams();
  const klass = useClass(id);
  const query = useQuery({
    queryKey: keys.classHomework(id),
    queryFn: () => api('GET /classes/:id/homework', { id }),
  });
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  if (klass.isError) return <Failed error={klass.error} again={() => void klass.refetch()} />;
  if (query.isPending || klass.isPending) return <Loading what="the homework" />;
  const { homework } = query.data;
  const open = homework.filter(({ seenAt }) => seenAt === null);
  const seen = homework.filter(({ seenAt }) => seenAt !== null);
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <BackLink to={`/classes/${id}`} title="Back to the class" />
        <h1 className="text-title font-bold">{klass.data.name}: homework</h1>
        <span className="text-ink-2">{countOf(open.length, 'piece')} not seen yet</span>
      </header>
      {homework.length === 0 ? (
        <Panel>
          <Empty title="Nothing was handed in yet.">
            <p>
              Teams hand it in on their tablet, in the homework step of a lesson, after the hour or at home.
            </p>
          </Empty>
        </Panel>
      ) : (
        <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-2">
          {(
            [
              ['Not seen yet', open],
              ['Seen', seen],
            ] as const
          ).map(([title, list]) => (
            <Panel key={title} title={title} aside={countOf(list.length, 'piece')}>
              <ul>
                {list.map((one) => (
                  <One key={one.id} klass={id} of={one} />
                ))}
              </ul>
              {list.length === 0 ? <p className="text-ink-2">None.</p> : null}
            </Panel>
          ))}
        </div>
      )}
    </main>
  );
}
