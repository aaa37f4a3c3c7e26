import { CircleAlert, Printer, Redo2, Undo2 } from 'lucide-react';
import { useDeferredValue, useMemo } from 'react';
import { NavLink, Outlet, useOutletContext, useParams, useLocation } from 'react-router';
import { countOf } from '@vigilum/core/quantity';
import { lessonDifferences, missingIn, type Lesson, type Missing } from '@vigilum/core/lesson';
import type { Draft } from '@vigilum/contract/types';
import { Button, LinkButton } from '../ui/Button.tsx';
import { SavedMark } from '../saving/SavedMark.tsx';
import { Trouble } from '../saving/Trouble.tsx';
import { BackLink } from '../ui/BackLink.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { useDraft, useDraftQuery, type DraftHands } from './useDraft.ts';

const views = [
  { to: 'steps', word: 'Steps' },
  { to: 'plan', word: 'Plan' },
  { to: 'answer', word: 'Answer' },
  { to: 'checks', word: 'Checks' },
  { to: 'twist', word: 'Twist' },
  { to: 'versions', word: 'Versions' },
  { to: 'share', word: 'Share' },
];

export interface BuilderContext extends DraftHands {
  draft: Draft;
  missing: Missing[];
}
export const useBuilder = (): BuilderContext => useOutletContext<BuilderContext>();

/** Where two states of the lesson differ, so that one can be chosen. */
function Differences({ mine, theirs }: { mine: Lesson; theirs: Lesson }) {
  const found = lessonDifferences(theirs, mine);
  return (
    <ul className="max-h-40 overflow-auto text-ink-2">
      {found.slice(0, 12).map(({ where, says, before, after }, i) => (
        <li key={i}>
          <strong className="text-ink">{where}</strong>: {says}
          {before !== after ? (
            <span className="block truncate">
              mine “{after.slice(0, 80)}” · theirs “{before.slice(0, 80)}”
            </span>
          ) : null}
        </li>
      ))}
      {found.length > 12 ? <li>… and {found.length - 12} more</li> : null}
    </ul>
  );
}

function Builder({ draft }: { draft: Draft }) {
  const hands = useDraft(draft);
  const { pathname } = useLocation();
  const { lesson, model, saving } = hands;
  // What is missing follows a moment later, so that typing stays fluid.
  const settled = useDeferredValue(lesson);
  const missing = useMemo(() => missingIn(settled, model.state), [settled, model.state]);
  const stops = missing.filter(({ grade }) => grade === 'stop').length;
  // A proof under way is not a thing that the teacher has to see to.
  const waiting = model.busy && model.state === 'never proved' && stops > 0 ? 1 : 0;
  return (
    <main
      data-part={views.find(({ to }) => pathname.endsWith(to))?.word}
      className="flex flex-1 flex-col px-6 pt-2.5 pb-4 max-sm:px-3 lg:h-dvh lg:min-h-[40rem] lg:flex-none"
    >
      <header className="mb-2 flex flex-wrap items-center gap-x-3 gap-y-1">
        <BackLink to={`/lessons/${lesson.slug}/about`} title="Back to the lesson" />
        {/* What the lesson's state is stands under its title, so that nothing moves when it changes. */}
        <div className="flex flex-col">
          <h1 className="text-title leading-7 font-bold">{lesson.title || 'Lesson without a title'}</h1>
          <span className="flex items-center gap-3 text-sm leading-5">
            <SavedMark phase={saving.phase} />
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
        <Button icon={Undo2} disabled={!hands.canUndo} onClick={hands.undo} title="Take the last change back">
          Undo
        </Button>
        <Button
          icon={Redo2}
          disabled={!hands.canRedo}
          onClick={hands.redo}
          title="Make the change again that was taken back"
        >
          Redo
        </Button>
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
          <LinkButton icon={Printer} to={`/lessons/${lesson.slug}/print/handout`}>
            Print
          </LinkButton>
        </nav>
      </header>
      <Trouble
        state={saving}
        happen={hands.happen}
        what="this lesson"
        sides={(mine, theirs) => <Differences mine={mine} theirs={theirs} />}
      />
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
