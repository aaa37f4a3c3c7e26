import {
  Bot,
  CalendarDays,
  Calculator,
  CircleHelp,
  Map as MapIcon,
  Moon,
  NotebookText,
  Sun,
  UserRound,
  Users,
  type LucideIcon,
} from 'lucide-react';
import { NavLink, useLocation } from 'react-router';
import { RailClock } from './RailClock.tsx';
import { setTheme, useTheme } from '../ui/theme.ts';
import { Mark } from '../ui/Wordmark.tsx';

const places: { to: string; word: string; icon: LucideIcon; also?: string }[] = [
  { to: '/', word: 'Today', icon: Sun, also: '/teams' },
  { to: '/plan', word: 'Plan', icon: CalendarDays },
  { to: '/lessons', word: 'Lessons', icon: NotebookText },
  { to: '/class', word: 'Class', icon: Users },
  { to: '/robots', word: 'Robots', icon: Bot, also: '/kits' },
  { to: '/courses', word: 'Courses', icon: MapIcon },
  { to: '/workings', word: 'Workings', icon: Calculator },
];

const railItem =
  'flex min-h-14 w-full flex-col items-center justify-center gap-1 rounded-lg px-1 py-1.5 text-sm text-rail-ink max-sm:px-0.5 hover:bg-rail-here hover:text-white';

/** The teacher's way through the application: a slim rail at the left, at the bottom on narrow screens. */
export function Rail({ name, help }: { name: string; help: () => void }) {
  const night = useTheme() === 'nightwatch';
  const { pathname } = useLocation();
  return (
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
        <RailClock />
        <NavLink
          to="/account"
          title={`${name}: your account`}
          className={({ isActive }) => `${railItem} ${isActive ? 'bg-rail-here font-bold text-white' : ''}`}
        >
          <UserRound size={22} aria-hidden="true" />
          You
        </NavLink>
        <button
          type="button"
          className={`${railItem} max-sm:hidden`}
          onClick={() => setTheme(night ? 'daywatch' : 'nightwatch')}
          title="Switch between the light and the dark theme"
        >
          {night ? <Sun size={22} aria-hidden="true" /> : <Moon size={22} aria-hidden="true" />}
          {night ? 'Day' : 'Night'}
        </button>
        <button
          type="button"
          className={`${railItem} max-sm:hidden`}
          onClick={help}
          title="Keyboard shortcuts (?)"
        >
          <CircleHelp size={22} aria-hidden="true" />
          Keys
        </button>
      </div>
    </nav>
  );
}
