import {
  Bot,
  Calculator,
  CircleHelp,
  Map as MapIcon,
  Moon,
  NotebookText,
  Sun,
  Users,
  type LucideIcon,
} from 'lucide-react';
import { useState } from 'react';
import { NavLink, Outlet, useLocation } from 'react-router';
import { countOf } from '@vigilum/core/quantity';
import { Toaster } from 'sonner';
import { useWaits } from '../saving/useDoc.ts';
import { useChangeFeed } from './useChangeFeed.ts';
import { usePageTitle } from './usePageTitle.ts';
import { setTheme, useTheme } from '../ui/theme.ts';
import { useKey } from '../ui/useKey.ts';
import { Mark } from '../ui/Wordmark.tsx';
import { KeyHelp } from './KeyHelp.tsx';

const places: { to: string; word: string; icon: LucideIcon; also?: string }[] = [
  { to: '/', word: 'Today', icon: Sun, also: '/teams' },
  { to: '/lessons', word: 'Lessons', icon: NotebookText },
  { to: '/class', word: 'Class', icon: Users },
  { to: '/robots', word: 'Robots', icon: Bot, also: '/kits' },
  { to: '/courses', word: 'Courses', icon: MapIcon },
  { to: '/workings', word: 'Workings', icon: Calculator },
];

const railItem =
  'flex min-h-14 w-full flex-col items-center justify-center gap-1 rounded-lg px-1 py-1.5 text-sm text-rail-ink max-sm:px-0.5 hover:bg-rail-here hover:text-white';

/** What this page could not send yet, and whether the server answers. Nothing when all is stored. */
function Connection({ heard }: { heard: boolean }) {
  const { things, answered } = useWaits();
  if (heard && answered && things.length === 0) return null;
  const waiting =
    things.length === 0
      ? ''
      : `${countOf(things.length, 'thing')} not stored yet: ${things.slice(0, 3).join(', ')}`;
  const more = things.length > 3 ? ` and ${things.length - 3} more` : '';
  return (
    <p role="status" data-banner="" className="bg-brass-soft px-6 py-2 font-semibold text-brass">
      {heard && answered
        ? `${waiting}${more}.`
        : `The server does not answer. What you write is kept in this browser and sent when it is back.${waiting ? ` ${waiting}${more}.` : ''}`}
    </p>
  );
}

/** The frame of every page: a slim rail at the left (at the bottom on narrow screens), the page beside it. */
export function Shell() {
  const heard = useChangeFeed();
  usePageTitle();
  const theme = useTheme();
  const { pathname } = useLocation();
  const [help, setHelp] = useState(false);
  useKey('?', () => setHelp(true));
  const night = theme === 'nightwatch';
  return (
    <div className="flex min-h-dvh max-lg:flex-col-reverse">
      <a
        href="#page"
        className="btn btn-primary fixed top-2 left-2 z-30 not-focus:sr-only"
        onClick={(event) => {
          event.preventDefault();
          document.getElementById('page')?.focus();
        }}
      >
        Skip to the page
      </a>
      <nav
        aria-label="Main"
        className="z-20 flex shrink-0 bg-rail p-1.5 max-lg:sticky max-lg:bottom-0 lg:sticky lg:top-0 lg:h-dvh lg:w-19 lg:flex-col print:hidden"
      >
        <div className="flex items-center justify-center px-2 py-3 text-white max-lg:hidden" title="Vigilum">
          <Mark className="w-11" />
          <span className="sr-only">Vigilum</span>
        </div>
        <ul className="flex gap-1 max-lg:flex-1 max-sm:gap-0 lg:mt-2 lg:flex-col">
          {places.map(({ to, word, icon: Icon, also }) => {
            const here =
              (to === '/' ? pathname === '/' : pathname.startsWith(to)) ||
              (also !== undefined && pathname.startsWith(also));
            return (
              <li key={to} className="max-lg:flex-1">
                <NavLink
                  to={to}
                  aria-current={here ? 'page' : undefined}
                  className={`${railItem} ${here ? 'bg-rail-here font-bold text-white' : ''}`}
                >
                  <Icon size={22} aria-hidden="true" />
                  {word}
                </NavLink>
              </li>
            );
          })}
        </ul>
        <div className="flex gap-1 max-sm:gap-0 lg:mt-auto lg:flex-col">
          <button
            type="button"
            className={railItem}
            onClick={() => setTheme(night ? 'daywatch' : 'nightwatch')}
            title="Switch between the light and the dark theme"
          >
            {night ? <Sun size={22} aria-hidden="true" /> : <Moon size={22} aria-hidden="true" />}
            {night ? 'Day' : 'Night'}
          </button>
          <button
            type="button"
            className={`${railItem} max-sm:hidden`}
            onClick={() => setHelp(true)}
            title="Keyboard shortcuts (?)"
          >
            <CircleHelp size={22} aria-hidden="true" />
            Keys
          </button>
        </div>
      </nav>
      <div className="flex min-w-0 flex-1 flex-col">
        <Connection heard={heard} />
        <div id="page" tabIndex={-1} className="flex min-w-0 flex-1 flex-col outline-none">
          <Outlet />
        </div>
      </div>
      {help ? <KeyHelp close={() => setHelp(false)} /> : null}
      <Toaster
        position="bottom-center"
        theme={night ? 'dark' : 'light'}
        toastOptions={{
          style: {
            fontFamily: 'var(--font-sans)',
            fontSize: '1rem',
            background: 'var(--sheet)',
            color: 'var(--ink)',
            borderColor: 'var(--edge)',
          },
        }}
      />
    </div>
  );
}
