import type { LessonStep } from '@vigilum/core/lesson';
import { EarlierStates } from '../saving/EarlierStates.tsx';
import { noteKind } from '../saving/kinds.ts';
import type { Phase } from '../saving/machine.ts';
import { Trouble } from '../saving/Trouble.tsx';
import { useDoc } from '../saving/useDoc.ts';
import { useStage } from './context.ts';

/** The kinds of step that a team writes in, with what is asked for there. */
export const asked: Partial<Record<LessonStep['kind'], string>> = {
  predict: 'we say, before the first run',
  reflect: 'in our own words',
  extend: 'what came of it',
  homework: 'our answer',
};

const noteWords: Record<Phase, string> = {
  idle: 'saved',
  typing: 'saving …',
  saving: 'saving …',
  offline: 'kept on this tablet; it is sent when the server answers',
  failed: 'not saved',
  conflict: 'not saved: somebody else wrote here',
};

/** What a team writes down in a step; it is saved a moment after the last word. Two who write in it are put together. */
export function Notes({ step }: { step: LessonStep }) {
  const { path, notes, hour } = useStage();
  const kept = notes[step.id];
  const doc = useDoc(
    noteKind,
    { team: path.id, lesson: path.slug, step: step.id },
    { revision: kept?.revision ?? 0, value: kept?.text ?? '' },
  );
  const { state } = doc;
  const id = `note-${step.id}`;
  return (
    <div className="flex flex-col gap-2 text-base">
      <span className="flex flex-wrap items-center gap-3 text-ink-2">
        <label htmlFor={id}>{asked[step.kind]}</label>
        <span
          role="status"
          className={['failed', 'conflict'].includes(state.phase) ? 'font-bold text-fault' : ''}
        >
          {state.phase === 'idle' && state.shown === '' ? '' : noteWords[state.phase]}
        </span>
        <span className="ml-auto">
          <EarlierStates
            of="note"
            id={`${path.id}/${path.slug}/${step.id}${hour ? `@${hour.id}` : ''}`}
            show={(value) => String(value)}
            restore={(value) => doc.happen({ is: 'typed', value: String(value) })}
          />
        </span>
      </span>
      <Trouble
        state={state}
        happen={(event) => doc.happen(event)}
        what="this note"
        sides={(mine, theirs) => (
          <dl className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-3">
            <dt className="text-ink-2">mine</dt>
            <dd className="whitespace-pre-wrap">{mine}</dd>
            <dt className="text-ink-2">theirs</dt>
            <dd className="whitespace-pre-wrap">{theirs}</dd>
          </dl>
        )}
      />
      <textarea
        id={id}
        className="input h-auto w-full py-2 text-lg leading-7 whitespace-pre-wrap"
        rows={4}
        maxLength={2000}
        value={state.shown}
        onChange={(event) => doc.happen({ is: 'typed', value: event.target.value })}
      />
    </div>
  );
}
