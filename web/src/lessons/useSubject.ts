import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { knownRobotOf } from '@vigilum/core/classroom';
import type { KnownRobot, Lesson } from '@vigilum/core/lesson';
import { useToday, useWorkspaceQuery } from '../data/queries.ts';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import type { LessonBench } from '@vigilum/contract/types';

/** What is tried, proved or mended on a lesson's page: a script on a robot. */
export interface Subject {
  id: string;
  name: string;
  text: string;
  known: KnownRobot;
  /** The lesson that it is judged by: of a team its own twist. */
  lesson: Lesson;
}

export const useLessonBench = (slug: string) =>
  useQuery({
    queryKey: keys.bench(slug),
    queryFn: () => api('GET /lessons/:slug/bench', { slug }),
  });

/** The robot that the model answer is judged on; null where the lesson names none. */
export const modelKnown = ({ robot }: Lesson, kit: LessonBench['kit']): KnownRobot | null =>
  robot && kit ? { kit, build: robot.build, sets: [], thresholds: robot.thresholds } : null;

/** The scripts to choose from, and the chosen one: the model answer, a typical fault, or a team's on its own robot. */
export function useSubject({ lesson, kit }: LessonBench) {
  const [search, setSearch] = useSearchParams();
  const chosen = search.get('script') ?? 'model';
  const today = useToday();
  const teams = useMemo(
    () =>
      (today.data?.periods ?? [])
        .filter((period) => period.lesson.slug === lesson.slug)
        .flatMap((period) => period.teams),
    [today.data, lesson.slug],
  );
  const teamId = /^team-(\d+)$/.exec(chosen)?.[1];
  const workspace = useWorkspaceQuery(teamId ?? '0', lesson.slug, teamId !== undefined);
  const options = useMemo(
    () => [
      { id: 'model', name: 'model answer' },
      ...(lesson.faults ?? []).map(({ name }, i) => ({ id: `fault-${i}`, name: `fault: ${name}` })),
      ...(lesson.rightToo ?? []).map(({ name }, i) => ({ id: `right-${i}`, name: `right too: ${name}` })),
      ...teams.map(({ id, name }) => ({ id: `team-${id}`, name: `team ${name}` })),
    ],
    [lesson.faults, lesson.rightToo, teams],
  );
  const subject = useMemo((): Subject | null => {
    const name = options.find(({ id }) => id === chosen)?.name ?? 'model answer';
    if (teamId !== undefined) {
      const record = workspace.data?.record;
      if (!record?.script) return null;
      return {
        id: chosen,
        name,
        text: record.script.text,
        known: knownRobotOf(record),
        lesson: record.lesson,
      };
    }
    const known = modelKnown(lesson, kit);
    if (!known) return null;
    const [, list, at] = /^(fault|right)-(\d+)$/.exec(chosen) ?? [];
    const others = list === 'fault' ? lesson.faults : lesson.rightToo;
    const text = (list && others?.[Number(at)]?.script) || lesson.modelScript;
    return { id: chosen, name, text, known, lesson };
  }, [options, chosen, teamId, workspace.data, lesson, kit]);
  const choose = (id: string) => setSearch(id === 'model' ? {} : { script: id }, { replace: true });
  return { options, chosen, choose, subject, waiting: teamId !== undefined && workspace.isPending };
}
