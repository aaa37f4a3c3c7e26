import {
  MutationCache,
  QueryCache,
  QueryClient,
  useMutation,
  useQuery,
  useQueryClient,
} from '@tanstack/react-query';
import { withRecord } from '@vigilum/core/classroom';
import type { ChangeOf, KeptKind, Workspace } from '@vigilum/contract/types';
import { toast } from 'sonner';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { api, ApiProblem } from './api.ts';
import { ask } from './feed.ts';
import { keys } from './keys.ts';

/** Signed out meanwhile, such as from another page: who one is is asked again, and the way in is shown. */
const outside = (error: unknown): void => {
  if (error instanceof ApiProblem && error.status === 401)
    void queryClient.invalidateQueries({ queryKey: keys.me });
};

export const queryClient: QueryClient = new QueryClient({
  queryCache: new QueryCache({ onError: outside }),
  mutationCache: new MutationCache({ onError: outside }),
  defaultOptions: {
    queries: {
      // Pages hear of every change: what was asked for stays good until then.
      staleTime: 60_000,
      // The first attempt is always made; without a network what is shown stays, and nothing is asked in vain.
      networkMode: 'offlineFirst',
      refetchOnReconnect: false,
      retry: (times, error) =>
        times < 2 && !(error instanceof ApiProblem && error.status >= 400 && error.status < 500),
    },
    mutations: { networkMode: 'always' },
  },
});

export const useToday = () =>
  useQuery({ queryKey: keys.today, queryFn: () => api('GET /today'), refetchInterval: 60_000 });

export const usePeriod = (id: string) =>
  useQuery({ queryKey: keys.period(id), queryFn: () => api('GET /periods/:id', { id }) });

export const useRunningHours = () =>
  useQuery({ queryKey: keys.running, queryFn: () => api('GET /running-hours'), refetchInterval: 60_000 });

export const useSheet = (period: string) =>
  useQuery({
    queryKey: keys.sheet(period),
    queryFn: () => api('GET /periods/:id/sheet', { id: period }),
    refetchInterval: 60_000,
  });

/** What a team knows of its hour. The queue moves by what others do, of which its tablet is not told: it asks now and then. */
export const useTeamHour = (team: number | null) =>
  useQuery({
    enabled: team !== null,
    queryKey: keys.teamHour(team ?? 0),
    queryFn: () => api('GET /teams/:id/hour', { id: team! }),
    refetchInterval: 15_000,
  });

export const useBoard = () =>
  useQuery({ queryKey: keys.board, queryFn: () => api('GET /board'), refetchInterval: 30_000 });

export const useClassHours = (id: string) =>
  useQuery({ queryKey: keys.classHours(id), queryFn: () => api('GET /classes/:id/hours', { id }) });

export const useSchool = () => useQuery({ queryKey: keys.school, queryFn: () => api('GET /school') });

/** Free space is asked for now and then: nobody tells of it. */
export const useStorage = (enabled = true) =>
  useQuery({
    enabled,
    queryKey: keys.storage,
    queryFn: () => api('GET /storage'),
    staleTime: 0,
    refetchInterval: 120_000,
  });

export const useAccounts = () => useQuery({ queryKey: keys.accounts, queryFn: () => api('GET /accounts') });

export const useDoors = (klass: string) =>
  useQuery({
    queryKey: keys.doors(klass),
    queryFn: () => api('GET /classes/:id/doors', { id: klass }),
    refetchInterval: 30_000,
  });

export const useClasses = () => useQuery({ queryKey: keys.classes, queryFn: () => api('GET /classes') });

export const useClass = (id: string) =>
  useQuery({ queryKey: keys.classDetail(id), queryFn: () => api('GET /classes/:id', { id }) });

export const useTeamThen = (hour: string, team: string) =>
  useQuery({
    queryKey: keys.teamThen(hour, team),
    queryFn: () => api('GET /periods/:id/teams/:team', { id: hour, team }),
  });

export const useTeamGoes = (id: string) =>
  useQuery({ queryKey: keys.teamGoes(id), queryFn: () => api('GET /teams/:id', { id }), gcTime: 0 });

export const useLessons = () => useQuery({ queryKey: keys.lessons, queryFn: () => api('GET /lessons') });

const deriveRecord = (workspace: Workspace) => withRecord(workspace);

export const askWorkspace = (team: string | number, lesson: string) => ({
  queryKey: keys.workspace(team, lesson),
  queryFn: () => api('GET /teams/:id/lessons/:slug', { id: team, slug: lesson }),
  // The record that stages work from is derived here: the server sends everything once.
  select: deriveRecord,
});

export const useWorkspaceQuery = (team: string, lesson: string, enabled = true) =>
  useQuery({ ...askWorkspace(team, lesson), enabled });

export const useRobots = () => useQuery({ queryKey: keys.robots, queryFn: () => api('GET /robots') });

export const useRobot = (id: string) =>
  useQuery({ queryKey: keys.robot(id), queryFn: () => api('GET /robots/:id', { id }) });

export const useRobotReadings = (id: number) =>
  useQuery({ queryKey: keys.robotReadings(id), queryFn: () => api('GET /robots/:id/readings', { id }) });

export const useRobotTrials = (id: number) =>
  useQuery({ queryKey: keys.robotTrials(id), queryFn: () => api('GET /robots/:id/trials', { id }) });

export const useRobotThresholds = (id: number) =>
  useQuery({ queryKey: keys.robotThresholds(id), queryFn: () => api('GET /robots/:id/thresholds', { id }) });

export const useKits = () => useQuery({ queryKey: keys.kits, queryFn: () => api('GET /kits') });

export const useClassThresholds = (period: string) =>
  useQuery({
    queryKey: keys.periodThresholds(period),
    queryFn: () => api('GET /periods/:id/thresholds', { id: period }),
  });

export const useClassNotes = (period: string) =>
  useQuery({
    queryKey: keys.periodNotes(period),
    queryFn: () => api('GET /periods/:id/notes', { id: period }),
  });

/** Earlier states of a kit, a course, a phrasebook or a note. */
export const useKeptVersions = (of: KeptKind, key: string, enabled = true) =>
  useQuery({
    enabled,
    queryKey: keys.kept(of, key),
    queryFn: () => api('GET /kept-versions', { query: { of, key } }),
    staleTime: 0,
  });

/** All looks of a record of which a team’s page has only every k-th. */
export function useWholeRecording<
  Shown extends { id: number; of?: number; periodMs: number; values: (number | null)[] },
>(shown: Shown | null): Shown | null {
  const id = shown?.of === undefined ? null : shown.id;
  const whole = useQuery({
    enabled: id !== null,
    queryKey: keys.recording(id ?? 0),
    queryFn: () => api('GET /recordings/:id', { id: id! }),
    staleTime: Infinity,
  });
  if (!shown || !whole.data || whole.data.id !== shown.id) return shown;
  return { ...shown, periodMs: whole.data.periodMs, values: whole.data.values };
}

type Client = ReturnType<typeof useQueryClient>;

/**
 * A change on the server. `touches` says what it changed, so that this page asks again for what it shows of that, or puts the
 * answer itself where it is shown. A failure is told in one sentence.
 */
export function useChange<Input, Output>(
  change: (input: Input) => Promise<Output>,
  touches: (output: Output, input: Input, client: Client) => ChangeOf[] | void,
) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: (output, input) => {
      const changes = touches(output, input, client);
      return changes ? ask(client, changes) : undefined;
    },
    onError: (error) => toast.error(sentenceOf(error)),
  });
}
