import { useState, type ReactNode } from 'react';
import { Outlet, useLocation } from 'react-router';
import { countOf } from '@vigilum/core/quantity';
import { Toaster } from 'sonner';
import 'sonner/dist/styles.css';
import { LinkButton } from '../ui/Button.tsx';
import { ProofDialog } from '../access/ProofDialog.tsx';
import { useMe } from '../data/me.ts';
import { useWaits } from '../saving/useDoc.ts';
import { useTheme } from '../ui/theme.ts';
import { useKey } from '../ui/useKey.ts';
import { KeyHelp } from './KeyHelp.tsx';
import { useChangeFeed } from './useChangeFeed.ts';
import { usePageTitle } from './usePageTitle.ts';

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
        : `The server does not answer. What you write in a lesson is kept in this browser and sent when it is back; anything that cannot wait says so.${waiting ? ` ${waiting}${more}.` : ''}`}
    </p>
  );
}

/** That nothing can be saved, as long as the disk of the server is full. */
function DiskFull() {
  const { data } = useMe();
  const { pathname } = useLocation();
  // Today says it with what can be done.
  if (!data?.diskFull || pathname === '/') return null;
  return (
    <p role="status" data-banner="" className="bg-brass-soft px-6 py-2 font-semibold text-brass print:hidden">
      The disk of the server is full. You can look at everything, and nothing can be saved. Tell whoever looks
      after the server.
    </p>
  );
}

/** What every page of somebody who is in has around it: the change feed, what waits, messages; and beside it what `rail` makes. */
export function Frame({ rail, top }: { rail?: (help: () => void) => ReactNode; top?: ReactNode }) {
  const heard = useChangeFeed();
  usePageTitle();
  const night = useTheme() === 'nightwatch';
  const [help, setHelp] = useState(false);
  useKey('?', () => setHelp(true));
  return (
    <div className="flex min-h-dvh max-lg:flex-col-reverse">
      <LinkButton
        main
        className="fixed top-2 left-2 z-30 not-focus:sr-only"
        href="#page"
        onClick={(event) => {
          event.preventDefault();
          document.getElementById('page')?.focus();
        }}
      >
        Skip to the page
      </LinkButton>
      {rail?.(() => setHelp(true))}
      <div className="flex min-w-0 flex-1 flex-col">
        <Connection heard={heard} />
        <DiskFull />
        {top}
        <div id="page" tabIndex={-1} className="flex min-w-0 flex-1 flex-col outline-none">
          <Outlet />
        </div>
      </div>
      <ProofDialog />
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
