import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { Labelled } from '../ui/fields.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { useChange } from '../data/queries.ts';
import type { RobotDetail, TeamEntry } from '@vigilum/contract/types';

/** Which team uses a robot; a team of the same class that has it gets the other’s. */
export function TeamOfRobot({ detail }: { detail: RobotDetail }) {
  const teams = useQuery({ queryKey: keys.teams, queryFn: () => api('GET /teams') });
  const give = useChange(
    async (team: TeamEntry) => {
      const { exchanged } = await api('PUT /teams/:id/robot', { id: team.id, body: { robot: detail.id } });
      toast.success(
        `${team.name} uses ${detail.name} now${exchanged ? '; the two teams exchanged theirs' : ''}.`,
      );
    },
    () => [{ what: 'class', class: 0, part: 'teams' }],
  );
  const all = teams.data?.teams ?? [];
  const using = all.filter(({ robot }) => robot === detail.id);
  if (all.length === 0) return null;
  return (
    <Labelled beside label="team">
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
    </Labelled>
  );
}
