import { describe, expect, it } from '@jest/globals';
import type { ChangeOf } from '@vigilum/contract/types';
import { boardTeams, keys, keysOf } from './keys.ts';

/** Whether a change makes a page ask again for a query: one of its keys begins the query's key. */
const asks = (change: ChangeOf, key: readonly unknown[]): boolean =>
  keysOf(change).some((prefix) => prefix.every((part, i) => part === key[i]));

const note: ChangeOf = { what: 'evidence', team: 4, lesson: 'tide-line', part: 'notes', of: 2 };
const readings: ChangeOf = { what: 'robot', robot: 9, teams: [4], part: 'readings' };

describe('what one change concerns', () => {
  it.each<[string, ChangeOf, readonly unknown[], boolean]>([
    ['a note: the team’s own page', note, keys.workspace(4, 'tide-line'), true],
    ['a note: another team’s page', note, keys.workspace(5, 'tide-line'), false],
    ['a note: the same team in another lesson', note, keys.workspace(4, 'stop-short'), false],
    ['a note: the class’s notes', note, keys.periodNotes(1), true],
    ['a note: the lessons', note, keys.lessons, false],
    ['a note: the builder', note, keys.draft('tide-line'), false],
    [
      'readings: the team that drives the robot, in any lesson',
      readings,
      keys.workspace(4, 'stop-short'),
      true,
    ],
    ['readings: another team', readings, keys.workspace(5, 'tide-line'), false],
    ['readings: the robot’s own page', readings, keys.robotReadings('9'), true],
    ['readings: another robot’s page', readings, keys.robotReadings(8), false],
    ['readings: the list of robots', readings, keys.robots, false],
    [
      'a script that is typed: nobody asks, editors take it in',
      { ...note, part: 'script' },
      keys.workspace(4, 'tide-line'),
      false,
    ],
    [
      'a new version: the list of versions',
      { ...note, part: 'version' },
      keys.versions(4, 'tide-line'),
      true,
    ],
    ['a log: the team’s logs', { ...note, part: 'log' }, keys.logs(4, 'tide-line'), true],
    ['a log: not the whole page', { ...note, part: 'log' }, keys.workspace(4, 'tide-line'), false],
    ['a lesson: its pages', { what: 'lesson', lesson: 'tide-line', of: 3 }, keys.bench('tide-line'), true],
    [
      'a lesson: those of another',
      { what: 'lesson', lesson: 'tide-line', of: 3 },
      keys.bench('stop-short'),
      false,
    ],
    ['a lesson: the robots', { what: 'lesson', lesson: 'tide-line', of: 3 }, keys.robots, false],
    ['a kit: its robots', { what: 'kit', kit: 'skiff' }, keys.robot(3), true],
    ['a phrasebook: those of its kit', { what: 'phrasebook', kit: 'skiff' }, keys.phrasebooks('skiff'), true],
    [
      'a phrasebook: those of another',
      { what: 'phrasebook', kit: 'skiff' },
      keys.phrasebooks('cobble'),
      false,
    ],
    ['a course: the board', { what: 'course', course: 2 }, keys.today, false],
    [
      'twists handed out: every team',
      { what: 'class', class: 1, part: 'variants' },
      keys.workspace(7, 'x'),
      true,
    ],
    ...(['place', 'version', 'try', 'proof', 'trial'] as const).map(
      (part): [string, ChangeOf, readonly unknown[], boolean] => [
        `evidence (${part}): the live sheet`,
        { ...note, part },
        keys.sheet(3),
        true,
      ],
    ),
    ...(['notes', 'script', 'log'] as const).map((part): [string, ChangeOf, readonly unknown[], boolean] => [
      `evidence (${part}): not the live sheet`,
      { ...note, part },
      keys.sheet(3),
      false,
    ]),
    ['readings: the live sheet', readings, keys.sheet(3), true],
    [
      'an hour, of one team: its own bar',
      { what: 'hour', class: 1, period: 3, team: 4 },
      keys.teamHour(4),
      true,
    ],
    [
      'an hour, of one team: not the bar of another',
      { what: 'hour', class: 1, period: 3, team: 4 },
      keys.teamHour(5),
      false,
    ],
    ['an hour, of all: every bar', { what: 'hour', class: 1, period: 3, team: null }, keys.teamHour(5), true],
    ['a robot given to a team: the robots', { what: 'class', class: 1, part: 'teams' }, keys.robots, true],
  ])('%s', (_, change, key, wanted) => {
    expect(asks(change, key)).toBe(wanted);
  });

  it('are the rows of a board only where the board shows it', () => {
    expect(boardTeams(note)).toBeNull();
    expect(boardTeams({ ...note, part: 'script' })).toBeNull();
    expect(boardTeams({ ...note, part: 'proof' })).toEqual({ teams: [4], lesson: 'tide-line' });
    expect(boardTeams(readings)).toEqual({ teams: [4], lesson: null });
    expect(boardTeams({ what: 'kit', kit: 'skiff' })).toBeNull();
  });
});
