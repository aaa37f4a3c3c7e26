import { useQuery, useQueryClient } from '@tanstack/react-query';
import { isStaff } from '@vigilum/contract/roles';
import type { Me } from '@vigilum/contract/types';
import { api } from './api.ts';
import { keys } from './keys.ts';

/** Who this browser is to the server. */
export const useMe = () =>
  useQuery({ queryKey: keys.me, queryFn: () => api('GET /me'), staleTime: Infinity });

/** Whether whoever looks may change things of the school: guests look, and teams change what is theirs. */
export const useIsStaff = (): boolean => {
  const { data } = useMe();
  return data !== undefined && isStaff(data.role);
};
/** Whether this is a team's own tablet. */
export const useIsTeam = (): boolean => useMe().data?.role === 'team';

/** Takes over who the browser is by now: what others were shown is forgotten. */
export function useEnter(): (me: Me | null) => void {
  const client = useQueryClient();
  return (me) => {
    client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== keys.me[0] });
    if (me) client.setQueryData(keys.me, me);
    else void client.resetQueries({ queryKey: keys.me });
  };
}
