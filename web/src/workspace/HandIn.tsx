import { Send } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import type { LessonStep } from '@vigilum/core/lesson';
import type { HandedIn } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { queryClient, useChange } from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { useStage } from './context.ts';

/** One thing that was handed in: what the teacher says of it, or that nobody has looked yet. */
function One({ of }: { of: HandedIn }) {
  return (
    <li className="border-t border-line-soft py-2">
      <p className="text-ink-2">
        handed in {whenOf(of.handedAt)}
        {of.seenAt === null ? ', not seen yet' : of.answer === null ? ', seen' : ''}
      </p>
      <p className="whitespace-pre-wrap">{of.text}</p>
      {of.answer !== null ? (
        <p className={`mt-1 border-l-4 pl-3 ${of.again ? 'border-l-brass' : 'border-l-done'}`}>
          <b>{of.again ? '△ Once more:' : '✓'}</b> {of.answer}{' '}
          <span className="text-ink-2">{of.answeredBy}</span>
        </p>
      ) : of.again ? (
        <p className="mt-1 text-brass">△ Once more.</p>
      ) : null}
    </li>
  );
}

/** Homework leaves the tablet: what is written above, as it is now. Handed in again before it was seen, it takes the place of the first. */
export function HandIn({ step }: { step: LessonStep }) {
  const { path, notes } = useStage();
  const query = useQuery({
    queryKey: keys.teamHomework(path.id, path.slug),
    queryFn: () => api('GET /teams/:id/lessons/:slug/homework', path),
  });
  const send = useChange(
    (text: string) =>
      api('POST /teams/:id/lessons/:slug/homework', { ...path, body: { step: step.id, text } }),
    () => {
      void queryClient.invalidateQueries({ queryKey: keys.teamHomework(path.id, path.slug) });
    },
  );
  const text = notes[step.id]?.text.trim() ?? '';
  const all = (query.data?.homework ?? []).filter((one) => one.step === step.id);
  const last = all.at(-1);
  const same = last?.text.trim() === text && !last.again;
  return (
    <section aria-label="Handing in" className="flex flex-col gap-2 text-base">
      <div className="flex flex-wrap items-center gap-3">
        <Button
          main
          icon={Send}
          disabled={text === '' || same || send.isPending}
          onClick={() => send.mutate(text)}
        >
          {all.length === 0 ? 'Hand it in' : 'Hand it in again'}
        </Button>
        <span className="text-ink-2">
          {text === ''
            ? 'Write your answer first.'
            : same
              ? 'It is handed in as it stands above.'
              : last && !last.again && last.seenAt === null
                ? 'It takes the place of what you handed in.'
                : ''}
        </span>
      </div>
      {all.length > 0 ? (
        <ul>
          {[...all].reverse().map((one) => (
            <One key={one.id} of={one} />
          ))}
        </ul>
      ) : null}
    </section>
  );
}
