import type { HelpCall, Stage, StageName, TeamRecord } from '@vigilum/core/classroom';
import type { Judgement, Proof } from '@vigilum/core/expect';
import type { Lesson } from '@vigilum/core/lesson';
import type { Reading } from '@vigilum/core/sensing';

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

export interface StoredSet {
  id: number;
  surface: string;
  values: Reading[];
  lightNote: string;
  at: number;
}

export interface Trial {
  id: number;
  scriptVersion: number | null;
  pastMm: number;
  rested: boolean;
  tookS: number | null;
  note: string;
  judgements: Judgement[];
  at: number;
}

export interface Workspace {
  team: { id: number; name: string };
  robot: { id: number; name: string };
  record: TeamRecord;
  sets: StoredSet[];
  threshold: {
    id: number;
    value: number;
    way: string;
    lowSetId: number;
    highSetId: number;
    at: number;
  } | null;
  tries: {
    id: number;
    scriptVersion: number;
    start: string;
    seed: number;
    judgements: Judgement[];
    pastMm: number | null;
    at: number;
  }[];
  proof: { id: number; scriptVersion: number; seed: number; proof: Proof; at: number } | null;
  trials: Trial[];
  stages: Stage[];
  now: number;
}
