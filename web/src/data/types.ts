import type { HelpCall, Stage, StageName, TeamInLesson } from '@vigilum/core/classroom';
import type { Lesson } from '@vigilum/core/lesson';

export interface BoardTeam {
  id: number;
  name: string;
  robot: string;
  stages: Stage[];
  current: StageName;
  help: HelpCall | null;
  lastAt: number | null;
}

export interface Period {
  id: number;
  startsAt: number;
  minutes: number;
  class: { id: number; name: string; school: string };
  lesson: Pick<Lesson, 'slug' | 'title' | 'aim'>;
  teams: BoardTeam[];
}

export interface Today {
  now: number;
  periods: Period[];
}

/** A team's workspace as the server sends it. */
export interface Workspace extends TeamInLesson {
  stages: Stage[];
  now: number;
}
