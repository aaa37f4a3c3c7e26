import { Archive, ArchiveRestore, Copy, Trash2 } from 'lucide-react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import type { RobotChange, RobotDetail } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { useRemoval } from '../data/removal.ts';

/** What can be done with a robot as a whole: one more like it, put away for repair, removed. */
export function RobotActions({ detail }: { detail: RobotDetail }) {
  const navigate = useNavigate();
  const tells = () => [{ what: 'robot' as const, robot: detail.id, teams: [], part: 'build' as const }];
  const change = useChange((body: RobotChange) => api('PATCH /robots/:id', { id: detail.id, body }), tells);
  const copy = useChange(
    () => api('POST /robots/:id/copies', { id: detail.id, body: { count: 1 } }),
    ({ id }) => [{ what: 'robot', robot: id, teams: [], part: 'build' }],
  );
  const remove = useRemoval('robots', `${detail.name} removed. What was read off it is kept.`, tells);
  const putAway = (archived: boolean) =>
    change.mutate(
      { archived },
      {
        onSuccess: () =>
          toast(archived ? `${detail.name} is put away: no class is given it.` : `${detail.name} is back.`, {
            action: { label: 'Undo', onClick: () => change.mutate({ archived: !archived }) },
            duration: 10_000,
          }),
      },
    );
  return (
    <>
      <Button
        icon={Copy}
        disabled={copy.isPending}
        title="Another robot built as this one, without what is odd about it and what was read off it"
        onClick={() =>
          copy.mutate(undefined, {
            onSuccess: ({ id, names }) =>
              toast(`${names[0]} added.`, {
                action: { label: 'Open it', onClick: () => void navigate(`/robots/${id}/build`) },
              }),
          })
        }
      >
        One more like it
      </Button>
      <Button disabled={change.isPending} onClick={() => putAway(!detail.archived)}>
        {detail.archived ? (
          <ArchiveRestore size={18} aria-hidden="true" />
        ) : (
          <Archive size={18} aria-hidden="true" />
        )}
        {detail.archived ? 'Bring back' : 'Put away'}
      </Button>
      <Button
        icon={Trash2}
        disabled={detail.team !== null}
        title={detail.team === null ? `Remove ${detail.name}` : `${detail.team} drives it`}
        onClick={() => void remove(detail.id).then((gone) => (gone ? navigate('/robots') : undefined))}
      >
        Remove
      </Button>
    </>
  );
}
