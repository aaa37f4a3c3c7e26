import { useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { post, remove } from './api.ts';
import { sentenceOf } from './queries.ts';

/** Takes a record away, says so, and offers to bring it back for ten seconds. Either may fail: then it says why. */
export function useRemoval(
  records:
    | 'sample-sets'
    | 'floor-trials'
    | 'recordings'
    | 'kits'
    | 'phrasebooks'
    | 'courses'
    | 'run-logs'
    | 'lessons',
  says: string,
): (id: number | string) => Promise<void> {
  const client = useQueryClient();
  const attempt = async (change: () => Promise<unknown>): Promise<boolean> => {
    try {
      await change();
      await client.invalidateQueries();
      return true;
    } catch (error) {
      toast.error(sentenceOf(error));
      return false;
    }
  };
  return async (id) => {
    if (!(await attempt(() => remove(`/${records}/${id}`)))) return;
    toast(says, {
      action: { label: 'Undo', onClick: () => void attempt(() => post(`/${records}/${id}/restoration`)) },
      duration: 10_000,
    });
  };
}
