import { CircleAlert, Printer, Redo2, Undo2 } from 'lucide-react';
import { useDeferredValue, useMemo } from 'react';
import { Link, NavLink, Outlet, useOutletContext, useParams } from 'react-router';
import { countOf } from '@vigilum/core/quantity';
import { missingIn, type Missing } from '@vigilum/core/lesson';
import { SavedMark } from '../stages/script/SavedMark.tsx';
import { BackLink } from '../ui/BackLink.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { useDraft, useDraftQuery, type Draft, type DraftHands } from './useDraft.ts';

const views = [
  { to: 'steps', word: 'Steps' },
  { to: 'plan', word: 'Plan' },
  { to: 'answer', word: 'Answer' },
  { to: 'twist', word: 'Twist' },
  { to: 'versions', word: 'Versions' },
  { to: 'share', word: 'Share' },
];

export interface BuilderContext extends DraftHands {
  draft: Draft;
  missing: Missing[];
}
export const useBuilder = (): BuilderContext => useOutletContext<BuilderContext>();

/** Another screen saved meanwhile: both texts are here, and one is chosen. */
function Conflict({ saving, lesson, settle }: Pick<DraftHands, 'saving' | 'lesson' | 'settle'>) {
  if (saving.state === 'failed')
    return (
      <div role="alert" className="mb-2 border-l-4 border-l-fault bg-sheet px-4 py-2">
        <p className="font-bold">{saving.says}</p>
        <ul>
          {saving.fields.slice(0, 5).map(({ field, says }) => (
            <li key={field} className="text-ink-2">
              {says}
            </li>
          ))}
        </ul>
      </div>
    );
  if (saving.state !== 'conflict') return null;
  return (
    <div
      role="alert"
      className="mb-2 flex flex-wrap items-center gap-3 border-l-4 border-l-fault bg-sheet px-4 py-2"
    >
      <p>
        <strong>This lesson was changed on another screen.</strong> Keep one of the two; the other stays among
        the versions.
      </p>
      <button type="button" className="btn btn-plain" onClick={() => settle(saving, lesson)}>
        Keep mine
      </button>
      <button type="button" className="btn btn-plain" onClick={() => settle(saving, saving.lesson)}>
        Take theirs
      </button>
    </div>
  );
}

function Builder({ draft }: { draft: Draft }) {
  const hands = useDraft(draft);
  const { lesson, model, saving } = hands;
  // What is missing follows a moment later, so that typing stays fluid.
  const settled = useDeferredValue(lesson);
  const missing = useMemo(() => missingIn(settled, model.state), [settled, model.state]);
  const stops = missing.filter(({ grade }) => grade === 'stop').length;
  // A proof under way is not a thing that the teacher has to see to.
  const waiting = model.busy && model.state === 'never proved' && stops > 0 ? 1 : 0;
  return (
    <main className="flex flex-1 flex-col px-6 pt-2.5 pb-4 max-sm:px-3 lg:h-dvh lg:min-h-[40rem] lg:flex-none">
      <header className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-1">
        <BackLink to={`/lessons/${lesson.slug}/about`} title="Back to the lesson" />
        {/* What the lesson's state is stands under its title, so that nothing moves when it changes. */}
        <div className="flex flex-col">
          <h1 className="text-title leading-7 font-bold">{lesson.title || 'Lesson without a title'}</h1>
          <span className="flex items-center gap-3 text-sm leading-5">
            <SavedMark
              saving={
                saving.state === 'conflict'
                  ? { state: 'failed', says: '' }
                  : saving.state === 'failed'
                    ? { state: 'failed', says: saving.says }
                    : saving
              }
            />
            {stops > waiting ? (
              <span className="flex items-center gap-1 font-bold text-fault">
                <CircleAlert size={15} aria-hidden="true" /> {countOf(stops - waiting, 'thing')} missing
              </span>
            ) : waiting > 0 ? (
              <span role="status" className="text-ink-2">
                proving the answer …
              </span>
            ) : null}
          </span>
        </div>
        <button
          type="button"
          className="btn btn-plain"
          disabled={!hands.canUndo}
          onClick={hands.undo}
          title="Take the last change back"
        >
          <Undo2 size={18} aria-hidden="true" /> Undo
        </button>
        <button
          type="button"
          className="btn btn-plain"
          disabled={!hands.canRedo}
          onClick={hands.redo}
          title="Make the change again that was taken back"
        >
          <Redo2 size={18} aria-hidden="true" /> Redo
        </button>
        <nav aria-label="Parts of the builder" className="ml-auto flex flex-wrap gap-1">
          {views.map(({ to, word }) => (
            <NavLink
              key={to}
              to={to}
              className={({ isActive }) =>
                `flex min-h-11 items-center rounded-lg border px-3 ${isActive ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`
              }
            >
              {word}
            </NavLink>
          ))}
          <Link className="btn btn-plain" to={`/lessons/${lesson.slug}/print/handout`}>
            <Printer size={18} aria-hidden="true" /> Print
          </Link>
        </nav>
      </header>
      <Conflict saving={saving} lesson={lesson} settle={hands.settle} />
      <div className="flex min-h-0 flex-1 flex-col gap-2">
        <Outlet context={{ ...hands, draft, missing } satisfies BuilderContext} />
      </div>
    </main>
  );
}

/** The lesson builder: a lesson in work, with everything that belongs to it. */
export default function BuilderLayout() {
  const { slug = '' } = useParams();
  const query = useDraftQuery(slug);
  if (query.isPending || (query.isFetching && query.isStale && !query.data))
    return <Loading what="the lesson" />;
  if (!query.data) return <Failed error={query.error} again={() => void query.refetch()} />;
  return <Builder key={slug} draft={query.data} />;
}
