import { useEffect } from 'react';
import { Navigate, useLocation } from 'react-router';
import type { Me } from '@vigilum/contract/types';
import { useMe } from '../data/me.ts';
import { TeamBar } from '../live/TeamBar.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { Frame } from './Frame.tsx';
import { Rail } from './Rail.tsx';

/** Pages that a team's tablet opens beside its own: they hold nothing of anybody. */
const openToTeams = ['/workings'];
const KNOWN = 'vigilum me';

/** Who this browser was when the server last answered: without the network it stays that. */
function remembered(): Me | null {
  try {
    return JSON.parse(localStorage.getItem(KNOWN) ?? 'null') as Me | null;
  } catch {
    return null;
  }
}

/** The frame for whoever is here: the teacher's with its rail, a team's without, or the way in. */
export function Entry() {
  const query = useMe();
  const { pathname, search } = useLocation();
  const { data } = query;
  useEffect(() => {
    try {
      if (data) localStorage.setItem(KNOWN, JSON.stringify(data));
    } catch {
      // A browser that keeps nothing asks again.
    }
  }, [data]);
  if (query.isPending) return <Loading what="who you are" />;
  const me = data ?? remembered();
  if (!me) return <Failed error={query.error} again={() => void query.refetch()} />;
  switch (me.role) {
    case 'nobody':
      return me.first ? (
        <Navigate to="/first-account" replace />
      ) : (
        <Navigate to={`/sign-in?to=${encodeURIComponent(pathname + search)}`} replace />
      );
    case 'board':
      return pathname === '/board' ? <Frame /> : <Navigate to="/board" replace />;
    case 'team': {
      const own = `/teams/${me.team!.id}`;
      const mine = pathname === own || pathname.startsWith(`${own}/`);
      return mine || openToTeams.some((path) => pathname.startsWith(path)) ? (
        <Frame top={<TeamBar team={me.team!.id} />} />
      ) : (
        <Navigate to={own} replace />
      );
    }
    default:
      return (
        <Frame
          rail={(help) => <Rail name={me.name} help={help} />}
          top={
            me.role === 'guest' ? (
              <p className="bg-sea-soft px-6 py-1.5 text-sea print:hidden">
                You look on as a guest colleague: what you change here is not kept.
              </p>
            ) : null
          }
        />
      );
  }
}
