import { useQueryClient, type QueryClient } from '@tanstack/react-query';
import type {
  ChangeOf,
  FittingChange,
  NewCheck,
  NewFitting,
  NewQuickLooks,
  NewRecording,
  NewSet,
  NewThreshold,
  Whose,
  Workspace,
} from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { putCheck, putQuickLooks, putRecording, putSet, putThreshold } from '../data/patches.ts';
import { useChange } from '../data/queries.ts';
import { useRemoval } from '../data/removal.ts';
import { useWhose } from '../data/whose.ts';

type RobotChange = Extract<ChangeOf, { what: 'robot' }>;

/** A change of a robot, with the teams that drive it as far as this page knows. */
export function robotChange(client: QueryClient, robot: number, part: RobotChange['part']): RobotChange {
  const teams = client
    .getQueriesData<Workspace>({ queryKey: keys.allTeams })
    .flatMap(([, data]) => (data?.robot?.id === robot ? [data.team.id] : []));
  return { what: 'robot', robot, teams: [...new Set(teams)], part };
}

/** What is read in a team's lesson belongs to it; what is read on a page of the robot, to whoever has it then. */
const owned = <Body extends object>(body: Body, whose: Whose | null): Body & { whose?: Whose } =>
  whose ? { ...body, whose } : body;

export function useSaveSet(robot: number) {
  const whose = useWhose();
  return useChange(
    (body: NewSet) => api('POST /robots/:id/sample-sets', { id: robot, body: owned(body, whose) }),
    ({ set }, _, client) => putSet(client, robot, whose, set),
  );
}

export function useSaveRecording(robot: number) {
  const whose = useWhose();
  return useChange(
    (body: NewRecording) => api('POST /robots/:id/recordings', { id: robot, body: owned(body, whose) }),
    ({ recording }, _, client) => putRecording(client, robot, whose, recording),
  );
}

export function useSaveQuickLooks(robot: number) {
  const whose = useWhose();
  return useChange(
    (body: NewQuickLooks) => api('POST /robots/:id/quick-looks', { id: robot, body: owned(body, whose) }),
    ({ looks }, { socket }, client) => putQuickLooks(client, robot, whose, socket, looks),
  );
}

export function useSaveThreshold(robot: number) {
  const whose = useWhose();
  return useChange(
    (body: NewThreshold) => api('POST /robots/:id/thresholds', { id: robot, body: owned(body, whose) }),
    ({ threshold }, { socket }, client) => putThreshold(client, robot, whose, socket, threshold),
  );
}

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

/** Plugs a part of the kit into a socket; what was there is unplugged. */
export const usePlugIn = (robot: number) =>
  useChange(
    (body: NewFitting) => api('POST /robots/:id/fittings', { id: robot, body }),
    (_, __, client) => [robotChange(client, robot, 'build')],
  );

/** Takes a set or a recording of a robot away, and brings it back. */
export function useRemoveReading(
  records: 'sample-sets' | 'recordings',
  says: string,
  robot: number,
): (id: number | string) => Promise<boolean> {
  const client = useQueryClient();
  return useRemoval(records, says, () => [robotChange(client, robot, 'readings')]);
}
