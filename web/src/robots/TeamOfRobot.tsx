import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { get, put } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import type { RobotDetail } from '../data/types.ts';

interface TeamEntry {
  id: number;
  name: string;
  class: string;
  robot: number;
}

/** Which team uses a robot; a team of the same class that has it gets the other’s. */
export function TeamOfRobot({ detail }: { detail: RobotDetail }) {
  const teams = useQuery({ queryKey: ['teams'], queryFn: () => get<{ teams: TeamEntry[] }>('/teams') });
  const give = useChange(async (team: TeamEntry) => {
    const { exchanged } = await put<{ exchanged: boolean }>(`/teams/${team.id}/robot`, { robot: detail.id });
    toast.success(
      `${team.name} uses ${detail.name} now${exchanged ? '; the two teams exchanged theirs' : ''}.`,
    );
  });
  const all = teams.data?.teams ?? [];
  const using = all.filter(({ robot }) => robot === detail.id);
  if (all.length === 0) return null;
  return (
    <label className="flex items-center gap-2">
      <span className="text-ink-2">team</span>
      <select
        className="input h-11 w-48"
        value={using[0]?.id ?? ''}
        disabled={give.isPending}
        onChange={(event) => {
          const team = all.find(({ id }) => id === Number(event.target.value));
          if (team) give.mutate(team);
        }}
      >
        {using.length === 0 ? <option value="">none</option> : null}
        {all.map(({ id, name, class: of }) => (
          <option key={id} value={id}>
            {name}, {of}
          </option>
        ))}
      </select>
    </label>
  );
}
