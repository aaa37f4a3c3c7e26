import { useQuery } from '@tanstack/react-query';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';

/** What a walk is asked for by. */
export const askWalk = (id: number, slug: string) => ({
  queryKey: keys.walk(id, slug),
  queryFn: () => api('GET /teams/:id/lessons/:slug/walk', { id, slug }),
});

/** Every trial of a team in a lesson, with its numbers and what came out. */
export const useWalk = ({ id, slug }: { id: number; slug: string }) => useQuery(askWalk(id, slug));
