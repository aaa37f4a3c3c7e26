import { useQueryClient } from '@tanstack/react-query';
import type { ChangeOf } from '@vigilum/contract/types';
import { toast } from 'sonner';
import { api } from './api.ts';
import { ask } from './feed.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';

/** How each kind of record is taken away and brought back. */
const ways = {
  'sample-sets': {
    away: (id) => api('DELETE /sample-sets/:id', { id }),
    back: (id) => api('POST /sample-sets/:id/restoration', { id }),
  },
  recordings: {
    away: (id) => api('DELETE /recordings/:id', { id }),
    back: (id) => api('POST /recordings/:id/restoration', { id }),
  },
  'floor-trials': {
    away: (id) => api('DELETE /floor-trials/:id', { id }),
    back: (id) => api('POST /floor-trials/:id/restoration', { id }),
  },
  'robot-trials': {
    away: (id) => api('DELETE /robot-trials/:id', { id }),
    back: (id) => api('POST /robot-trials/:id/restoration', { id }),
  },
  'run-logs': {
    away: (id) => api('DELETE /run-logs/:id', { id }),
    back: (id) => api('POST /run-logs/:id/restoration', { id }),
  },
  kits: {
    away: (id) => api('DELETE /kits/:slug', { slug: id }),
    back: (id) => api('POST /kits/:slug/restoration', { slug: id }),
  },
  phrasebooks: {
    away: (id) => api('DELETE /phrasebooks/:id', { id }),
    back: (id) => api('POST /phrasebooks/:id/restoration', { id }),
  },
  courses: {
    away: (id) => api('DELETE /courses/:id', { id }),
    back: (id) => api('POST /courses/:id/restoration', { id }),
  },
  classes: {
    away: (id) => api('DELETE /classes/:id', { id }),
    back: (id) => api('POST /classes/:id/restoration', { id }),
  },
  teams: {
    away: (id) => api('DELETE /teams/:id', { id }),
    back: (id) => api('POST /teams/:id/restoration', { id }),
  },
  robots: {
    away: (id) => api('DELETE /robots/:id', { id }),
    back: (id) => api('POST /robots/:id/restoration', { id }),
  },
  periods: {
    away: (id) => api('DELETE /periods/:id', { id }),
    back: (id) => api('POST /periods/:id/restoration', { id }),
  },
  lessons: {
    away: (id) => api('DELETE /lessons/:slug', { slug: id }),
    back: (id) => api('POST /lessons/:slug/restoration', { slug: id }),
  },
  terms: {
    away: (id) => api('DELETE /terms/:id', { id }),
    back: (id) => api('POST /terms/:id/restoration', { id }),
  },
  'days-off': {
    away: (id) => api('DELETE /days-off/:id', { id }),
    back: (id) => api('POST /days-off/:id/restoration', { id }),
  },
  meetings: {
    away: (id) => api('DELETE /meetings/:id', { id }),
    back: (id) => api('POST /meetings/:id/restoration', { id }),
  },
  things: {
    away: (id) => api('DELETE /things/:id', { id }),
    back: (id) => api('POST /things/:id/restoration', { id }),
  },
  series: {
    away: (id) => api('DELETE /series/:id', { id }),
    back: (id) => api('POST /series/:id/restoration', { id }),
  },
  'own-skills': {
    away: (id) => api('DELETE /own-skills/:skill', { skill: id }),
    back: (id) => api('POST /own-skills/:skill/restoration', { skill: id }),
  },
} satisfies Record<string, Record<'away' | 'back', (id: number | string) => Promise<unknown>>>;

/**
 * Takes a record away, says so, and offers to bring it back for ten seconds. Either may fail: then it says why.
 * Gives whether it is gone.
 */
export function useRemoval(
  records: keyof typeof ways,
  says: string,
  touches: (id: number | string) => ChangeOf[],
): (id: number | string) => Promise<boolean> {
  const client = useQueryClient();
  const attempt = async (change: () => Promise<unknown>, id: number | string): Promise<boolean> => {
    try {
      await change();
      await ask(client, touches(id));
      return true;
    } catch (error) {
      toast.error(sentenceOf(error));
      return false;
    }
  };
  const { away, back } = ways[records];
  return async (id) => {
    if (!(await attempt(() => away(id), id))) return false;
    toast(says, {
      action: { label: 'Undo', onClick: () => void attempt(() => back(id), id) },
      duration: 10_000,
    });
    return true;
  };
}
