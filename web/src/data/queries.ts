import { QueryClient, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { Lesson } from '@vigilum/core/lesson';
import { toast } from 'sonner';
import { ApiProblem, get } from './api.ts';
import type {
  ClassNotes,
  ClassThresholds,
  Kits,
  RobotDetail,
  RobotEntry,
  RobotReadings,
  RobotThreshold,
  Today,
  Workspace,
} from './types.ts';

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 10_000,
      retry: (times, error) =>
        times < 2 && !(error instanceof ApiProblem && error.status >= 400 && error.status < 500),
    },
  },
});

export const keys = {
  today: ['today'] as const,
  lessons: ['lessons'] as const,
  workspace: (team: string | number, lesson: string) => ['workspace', String(team), lesson] as const,
};

export const useToday = () =>
  useQuery({ queryKey: keys.today, queryFn: () => get<Today>('/today'), refetchInterval: 30_000 });

export const useLessons = () =>
  useQuery({ queryKey: keys.lessons, queryFn: () => get<{ lessons: Lesson[] }>('/lessons') });

export const useWorkspaceQuery = (team: string, lesson: string, enabled = true) =>
  useQuery({
    enabled,
    queryKey: keys.workspace(team, lesson),
    queryFn: () => get<Workspace>(`/teams/${encodeURIComponent(team)}/lessons/${encodeURIComponent(lesson)}`),
    // The lesson, kit and robot keep their identity while they do not change, and with it what is computed from them.
    structuralSharing: true,
  });

export const useRobots = () =>
  useQuery({ queryKey: ['robots'], queryFn: () => get<{ robots: RobotEntry[] }>('/robots') });

export const useRobot = (id: string) =>
  useQuery({ queryKey: ['robot', id], queryFn: () => get<RobotDetail>(`/robots/${encodeURIComponent(id)}`) });

export const useRobotReadings = (id: number) =>
  useQuery({
    queryKey: ['robot', id, 'readings'],
    queryFn: () => get<RobotReadings>(`/robots/${id}/readings`),
  });

export const useRobotThresholds = (id: number) =>
  useQuery({
    queryKey: ['robot', id, 'thresholds'],
    queryFn: () => get<{ thresholds: RobotThreshold[] }>(`/robots/${id}/thresholds`),
  });

export const useKits = () => useQuery({ queryKey: ['kits'], queryFn: () => get<Kits>('/kits') });

export const useClassThresholds = (period: string) =>
  useQuery({
    queryKey: ['period', period, 'thresholds'],
    queryFn: () => get<ClassThresholds>(`/periods/${encodeURIComponent(period)}/thresholds`),
  });

export const useClassNotes = (period: string) =>
  useQuery({
    queryKey: ['period', period, 'notes'],
    queryFn: () => get<ClassNotes>(`/periods/${encodeURIComponent(period)}/notes`),
  });

/** The sentence to show for anything that was thrown. */
export const sentenceOf = (error: unknown): string =>
  error instanceof ApiProblem
    ? error.message
    : 'Something went wrong on this page. Reload it; what was saved is safe.';

/** A change on the server: pages that show it ask again; a failure is told in one sentence. */
export function useChange<Input, Output>(change: (input: Input) => Promise<Output>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSuccess: () => client.invalidateQueries(),
    onError: (error) => toast.error(sentenceOf(error)),
  });
}
