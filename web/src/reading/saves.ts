import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import type {
  ChangeOf,
  FittingChange,
  NewCheck,
  NewQuickLooks,
  NewRecording,
  NewSet,
  NewThreshold,
  Workspace,
} from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { putCheck, putQuickLooks, putRecording, putSet, putThreshold } from '../data/patches.ts';
import { useChange } from '../data/queries.ts';
import { useRemoval } from '../data/removal.ts';

type RobotChange = Extract<ChangeOf, { what: 'robot' }>;

/** A change of a robot, with the teams that drive it as far as this page knows. */
export function robotChange(client: QueryClient, robot: number, part: RobotChange['part']): RobotChange {
  const teams = client
    .getQueriesData<Workspace>({ queryKey: keys.allTeams })
    .flatMap(([, data]) => (data?.robot?.id === robot ? [data.team.id] : []));
  return { what: 'robot', robot, teams: [...new Set(teams)], part };
}

export const useSaveSet = (robot: number) =>
  useChange(
    (body: NewSet) => api('POST /robots/:id/sample-sets', { id: robot, body }),
    ({ set }, _, client) => putSet(client, robot, set),
  );

export const useSaveRecording = (robot: number) =>
  useChange(
    (body: NewRecording) => api('POST /robots/:id/recordings', { id: robot, body }),
    ({ recording }, _, client) => putRecording(client, robot, recording),
  );

export const useSaveQuickLooks = (robot: number) =>
  useChange(
    (body: NewQuickLooks) => api('POST /robots/:id/quick-looks', { id: robot, body }),
    ({ looks }, { socket }, client) => putQuickLooks(client, robot, socket, looks),
  );

export const useSaveThreshold = (robot: number) =>
  useChange(
    (body: NewThreshold) => api('POST /robots/:id/thresholds', { id: robot, body }),
    ({ threshold }, { socket }, client) => putThreshold(client, robot, socket, threshold),
  );

export const useSaveCheck = (robot: number) =>
  useChange(
    (body: NewCheck) => api('POST /robots/:id/wire-checks', { id: robot, body }),
    ({ at }, { socket, reacts }, client) => putCheck(client, robot, socket, { reacts, at }),
  );

/** Changes what is plugged in where, and how it is set. */
export const useRewire = (robot: number) =>
  useChange(
    ({ on, body }: { on: string; body: FittingChange }) =>
      api('PATCH /robots/:id/fittings/:socket', { id: robot, socket: on, body }),
    (_, __, client) => [robotChange(client, robot, 'build')],
  );

/** Takes a set or a recording of a robot away, and brings it back. */
export function useRemoveReading(
  records: 'sample-sets' | 'recordings',
  says: string,
  robot: number,
): (id: number | string) => Promise<void> {
  const client = useQueryClient();
  return useRemoval(records, says, () => [robotChange(client, robot, 'readings')]);
}
