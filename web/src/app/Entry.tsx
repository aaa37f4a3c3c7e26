import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { Navigate, useLocation } from 'react-router';
import { useMe } from '../data/me.ts';
import { keepShown } from '../data/offlineCache.ts';
import { TeamBar } from '../live/TeamBar.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { Frame } from './Frame.tsx';
import { Rail } from './Rail.tsx';

/** Pages that a team's tablet opens beside its own: they hold nothing of anybody. */
const openToTeams = ['/workings'];

/** The frame for whoever is here: the teacher's with its rail, a team's without, or the way in. */
export function Entry() {
  const query = useMe();
  const { pathname, search } = useLocation();
  const { data } = query;
  const client = useQueryClient();
  useEffect(() => {
    if (data) keepShown(client, data);
  }, [client, data]);
  if (query.isPending && query.fetchStatus !== 'paused') return <Loading what="who you are" />;
  if (!data) return <Failed error={query.error} again={() => void query.refetch()} />;
  const me = data;
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
