import type { QueryKey } from '@tanstack/react-query';
import type { ChangeOf } from '@vigilum/contract/types';

type Id = string | number;

/** The keys of everything that pages ask for. What one change concerns is a prefix of the keys that show it. */
export const keys = {
  me: ['me'] as const,
  accounts: ['accounts'] as const,
  schools: ['schools'] as const,
  doors: (klass: Id) => ['classes', String(klass), 'doors'] as const,
  today: ['today'] as const,
  running: ['running hours'] as const,
  sheets: ['sheet'] as const,
  sheet: (period: Id) => ['sheet', String(period)] as const,
  teamHours: ['hour of team'] as const,
  teamHour: (team: Id) => ['hour of team', String(team)] as const,
  board: ['board'] as const,
  periods: ['period'] as const,
  period: (period: Id) => ['period', String(period), 'board'] as const,
  classHours: (klass: Id) => ['period', 'of class', String(klass)] as const,
  teamThen: (period: Id, team: Id) => ['period', String(period), 'team', String(team)] as const,
  teamGoes: (team: Id) => ['team', String(team), 'goes'] as const,
  periodThresholds: (period: Id) => ['period', String(period), 'thresholds'] as const,
  periodNotes: (period: Id) => ['period', String(period), 'notes'] as const,
  storage: ['storage'] as const,
  school: ['classes', 'school'] as const,
  classes: ['classes'] as const,
  classDetail: (klass: Id) => ['classes', String(klass)] as const,
  logbook: (team: Id) => ['logbook', String(team)] as const,
  classSkills: (klass: Id) => ['class skills', String(klass)] as const,
  plan: ['plan'] as const,
  members: ['members'] as const,
  teamMembers: (team: Id) => ['members', String(team)] as const,
  reports: ['report'] as const,
  report: (klass: Id, term: Id) => ['report', String(klass), String(term)] as const,
  homework: ['homework'] as const,
  teamHomework: (team: Id, lesson: string) => ['homework', 'of team', String(team), lesson] as const,
  classHomework: (klass: Id) => ['homework', 'of class', String(klass)] as const,
  forgotten: ['forgotten'] as const,
  logbooks: ['logbook'] as const,
  next: (period: Id) => ['next', String(period)] as const,
  teams: ['teams'] as const,
  /** Everything of every team, of one team, of one team in one lesson. */
  allTeams: ['team'] as const,
  team: (team: Id) => ['team', String(team)] as const,
  teamLesson: (team: Id, lesson: string) => ['team', String(team), lesson] as const,
  workspace: (team: Id, lesson: string) => ['team', String(team), lesson, 'workspace'] as const,
  versions: (team: Id, lesson: string) => ['team', String(team), lesson, 'versions'] as const,
  version: (team: Id, lesson: string, version: number | null) =>
    ['script version', String(team), lesson, version] as const,
  script: (team: Id, lesson: string) => ['script', String(team), lesson] as const,
  walk: (team: Id, lesson: string) => ['team', String(team), lesson, 'walk'] as const,
  logs: (team: Id, lesson: string) => ['team', String(team), lesson, 'logs'] as const,
  lessons: ['lessons'] as const,
  allLessons: ['lesson'] as const,
  lesson: (slug: string) => ['lesson', slug] as const,
  bench: (slug: string) => ['lesson', slug, 'bench'] as const,
  draft: (slug: string) => ['lesson', slug, 'draft'] as const,
  lessonVersions: (slug: string) => ['lesson', slug, 'versions'] as const,
  lessonVersion: (slug: string, version: number | null) => ['lesson version', slug, version] as const,
  variants: (slug: string, klass: Id) => ['lesson', slug, 'variants', String(klass)] as const,
  robots: ['robots'] as const,
  robot: (id: Id) => ['robot', String(id), 'detail'] as const,
  robotReadings: (id: Id) => ['robot', String(id), 'readings'] as const,
  robotTrials: (id: Id) => ['robot', String(id), 'trials'] as const,
  robotThresholds: (id: Id) => ['robot', String(id), 'thresholds'] as const,
  allRobots: ['robot'] as const,
  recording: (id: number) => ['recording', id] as const,
  kits: ['kits'] as const,
  phrasebooks: (kit: string) => ['phrasebooks', kit] as const,
  courses: ['courses'] as const,
  course: (id: Id) => ['course', String(id)] as const,
  kept: (of: string, key: string) => ['kept', of, key] as const,
};

/** The queries that show what a change concerns. The rows of a board are asked for one by one: `boardTeams`. */
export function keysOf(change: ChangeOf): QueryKey[] {
  switch (change.what) {
    case 'evidence': {
      const { team, lesson, part } = change;
      switch (part) {
        case 'script':
          // Those who have it open take in the updates themselves.
          return [];
        case 'place':
          return [keys.sheets, keys.board];
        case 'version':
          return [keys.workspace(team, lesson), keys.versions(team, lesson), keys.sheets, keys.board];
        case 'log':
          return [keys.logs(team, lesson)];
        case 'notes':
          return [keys.workspace(team, lesson), keys.periods];
        default:
          return [
            keys.workspace(team, lesson),
            keys.walk(team, lesson),
            keys.sheets,
            keys.board,
            keys.teamHour(team),
          ];
      }
    }
    case 'hour':
      return [keys.sheets, keys.board, change.team === null ? keys.teamHours : keys.teamHour(change.team)];
    case 'robot': {
      const teams = [...change.teams.map((team) => keys.team(team)), keys.sheets, keys.board];
      const { robot } = change;
      switch (change.part) {
        case 'readings':
          return [...teams, keys.robotReadings(robot), keys.periods];
        case 'threshold':
          return [...teams, keys.robotThresholds(robot), keys.periods];
        case 'check':
          return [...teams, keys.robot(robot)];
        case 'braking':
          return [...teams, keys.robotTrials(robot)];
        case 'trials':
          return [keys.robotTrials(robot)];
        case 'build':
          return [...teams, keys.robot(robot), keys.robots, keys.periods];
      }
      break;
    }
    case 'plan':
      return [keys.plan, keys.robots];
    case 'class':
      if (change.part === 'skills')
        return [keys.classSkills(change.class), keys.members, keys.reports, keys.logbooks];
      if (change.part === 'homework') return [keys.classHomework(change.class), keys.homework];
      return change.part === 'variants'
        ? [keys.allTeams, keys.allLessons]
        : [
            keys.today,
            keys.classes,
            keys.teams,
            keys.periods,
            keys.running,
            keys.sheets,
            keys.board,
            keys.teamHours,
            // An hour that begins anew changes what its teams' pages hold.
            keys.allTeams,
            ...(change.part === 'teams' ? [keys.robots, keys.allRobots] : []),
          ];
    case 'lesson':
      return [keys.lesson(change.lesson), keys.lessons, keys.allTeams, keys.courses, keys.kits, keys.periods];
    case 'kit':
      return [keys.kits, keys.robots, keys.allRobots, keys.allTeams, keys.allLessons];
    case 'phrasebook':
      return [keys.phrasebooks(change.kit)];
    case 'course':
      return [keys.courses, keys.course(change.course)];
  }
  return [];
}

/** The rows of boards that a change concerns: which teams, and in which lesson where it matters; null for none. */
export function boardTeams(change: ChangeOf): { teams: number[]; lesson: string | null } | null {
  if (change.what === 'evidence')
    return ['version', 'try', 'proof', 'trial'].includes(change.part)
      ? { teams: [change.team], lesson: change.lesson }
      : null;
  return change.what === 'robot' ? { teams: change.teams, lesson: null } : null;
}
