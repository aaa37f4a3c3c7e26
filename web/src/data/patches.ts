import type { QueryClient, QueryKey } from '@tanstack/react-query';
import type {
  QuickLooks,
  Recording,
  SavedScript,
  StoredProof,
  StoredSensor,
  StoredSet,
  StoredThreshold,
  StoredTrial,
  StoredTry,
} from '@vigilum/core/classroom';
import { sameSocket } from '@vigilum/core/sensing';
import type { RobotReadings, Whose, Workspace } from '@vigilum/contract/types';
import { keys } from './keys.ts';

/** What the server answered to a write is put where pages show it, so that nothing needs to be asked for again. */

const isWorkspace = ({ queryKey }: { queryKey: readonly unknown[] }) => queryKey[3] === 'workspace';

/**
 * Changes what a query shows. When it was asked for stays: the difference between the server's clock and this one is told by
 * both together. An answer that is under way may be from before the change: it is asked for again.
 */
export function patch<Data>(
  client: QueryClient,
  queryKey: QueryKey,
  change: (old: Data) => Data,
  updatedAt?: number,
): void {
  const state = client.getQueryState(queryKey);
  if (!state) return;
  client.setQueryData<Data>(queryKey, (old) => (old === undefined ? old : change(old)), {
    updatedAt: updatedAt ?? state.dataUpdatedAt,
  });
  if (state.fetchStatus === 'fetching') void client.invalidateQueries({ queryKey, exact: true });
}

/** Changes what is known of one sensor: in one team's lesson, or in every lesson of every team that drives the robot. */
function patchSensor(
  client: QueryClient,
  robot: number,
  whose: Whose | 'everybody',
  socket: string,
  change: (sensor: StoredSensor, kind: string | undefined) => StoredSensor,
): void {
  const queryKey = whose === 'everybody' ? keys.allTeams : keys.workspace(whose.team, whose.lesson);
  const known = client.getQueriesData<Workspace>({ queryKey, predicate: isWorkspace });
  for (const [queryKey, data] of known) {
    if (data?.robot.id !== robot) continue;
    const own = Object.keys(data.sensors).find((name) => sameSocket(name, socket));
    if (own === undefined) continue;
    const need = [data.lesson.need, ...(data.lesson.also ?? [])].find((one) => sameSocket(one.socket, own));
    patch<Workspace>(client, queryKey, (old) => ({
      ...old,
      sensors: { ...old.sensors, [own]: change(old.sensors[own]!, need?.kind) },
    }));
  }
}

/** What was read on a page of the robot belongs to the hour in which its team is: the server knows which. */
function askAgain(client: QueryClient, robot: number): void {
  void client.invalidateQueries({
    queryKey: keys.allTeams,
    predicate: (query) =>
      isWorkspace(query) && (query.state.data as Workspace | undefined)?.robot.id === robot,
  });
}

const patchWorkspace = (
  client: QueryClient,
  team: number,
  lesson: string,
  change: (old: Workspace) => Workspace,
): void => patch(client, keys.workspace(team, lesson), change);

const sameSet = (a: StoredSet, b: StoredSet) =>
  a.socket === b.socket && a.kind === b.kind && a.surface === b.surface && a.truth === b.truth;
const withSet = (sets: readonly StoredSet[], set: StoredSet): StoredSet[] => [
  ...sets.filter((old) => !sameSet(old, set)),
  set,
];

export function putSet(client: QueryClient, robot: number, whose: Whose | null, set: StoredSet): void {
  if (!whose) askAgain(client, robot);
  else
    patchSensor(client, robot, whose, set.socket, (sensor, kind) =>
      // Readings count only while the sensor is set as the lesson needs it.
      kind !== undefined && kind !== set.kind ? sensor : { ...sensor, sets: withSet(sensor.sets, set) },
    );
  patch<RobotReadings>(client, keys.robotReadings(robot), (old) => ({
    ...old,
    sets: withSet(old.sets, set),
  }));
}

export function putRecording(
  client: QueryClient,
  robot: number,
  whose: Whose | null,
  recording: Recording,
): void {
  const { socket, kind, purpose, ...record } = recording;
  if (!whose) askAgain(client, robot);
  else
    patchSensor(client, robot, whose, socket, (sensor, own) =>
      own !== undefined && own !== kind ? sensor : { ...sensor, [purpose]: record },
    );
  patch<RobotReadings>(client, keys.robotReadings(robot), (old) => ({
    ...old,
    recordings: [recording, ...old.recordings],
  }));
}

export function putQuickLooks(
  client: QueryClient,
  robot: number,
  whose: Whose | null,
  socket: string,
  looks: QuickLooks,
): void {
  if (!whose) return askAgain(client, robot);
  patchSensor(client, robot, whose, socket, (sensor) => ({
    ...sensor,
    quickLooks: [...sensor.quickLooks.filter(({ surface }) => surface !== looks.surface), looks],
  }));
}

export function putThreshold(
  client: QueryClient,
  robot: number,
  whose: Whose | null,
  socket: string,
  threshold: StoredThreshold,
): void {
  if (!whose) askAgain(client, robot);
  else patchSensor(client, robot, whose, socket, (sensor) => ({ ...sensor, threshold }));
  void client.invalidateQueries({ queryKey: keys.robotThresholds(robot) });
}

export function putCheck(
  client: QueryClient,
  robot: number,
  socket: string,
  check: { reacts: boolean; at: number },
): void {
  patchSensor(client, robot, 'everybody', socket, (sensor) => ({ ...sensor, wireCheck: check }));
  void client.invalidateQueries({ queryKey: keys.robot(robot) });
}

/** The walk is worked out on the server: where it is shown it is asked for again. */
export const walkGrew = (client: QueryClient, team: number, lesson: string): void =>
  void client.invalidateQueries({ queryKey: keys.walk(team, lesson) });

export const putTry = (client: QueryClient, team: number, lesson: string, made: StoredTry): void => {
  patchWorkspace(client, team, lesson, (old) => ({ ...old, tries: [made, ...old.tries].slice(0, 8) }));
  walkGrew(client, team, lesson);
};

export const putProof = (client: QueryClient, team: number, lesson: string, proof: StoredProof): void => {
  patchWorkspace(client, team, lesson, (old) => ({ ...old, proof }));
  walkGrew(client, team, lesson);
};

export const putTrial = (client: QueryClient, team: number, lesson: string, trial: StoredTrial): void => {
  patchWorkspace(client, team, lesson, (old) => ({
    ...old,
    trials: [...old.trials.filter(({ id }) => id !== trial.id), trial].sort(
      (a, b) => a.at - b.at || a.id - b.id,
    ),
  }));
  walkGrew(client, team, lesson);
};

export const putNote = (
  client: QueryClient,
  team: number,
  lesson: string,
  step: string,
  note: { text: string; revision: number },
): void => patchWorkspace(client, team, lesson, (old) => ({ ...old, notes: { ...old.notes, [step]: note } }));

export const putPlace = (client: QueryClient, team: number, lesson: string, place: string): void =>
  patchWorkspace(client, team, lesson, (old) => ({ ...old, place }));

export function putScript(
  client: QueryClient,
  team: number,
  lesson: string,
  script: SavedScript | null,
): void {
  patchWorkspace(client, team, lesson, (old) =>
    script === null || (old.script && old.script.version >= script.version) ? old : { ...old, script },
  );
  void client.invalidateQueries({ queryKey: keys.versions(team, lesson) });
}
