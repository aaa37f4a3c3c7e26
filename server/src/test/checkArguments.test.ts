import { describe, expect, it } from '@jest/globals';
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CannotJudge, readArguments } from '../check/arguments.ts';
import { readLesson, readScripts } from '../check/files.ts';
import { lessonToJson, lessonToMarkdown } from '@vigilum/core/formats';
import { harbourLessons } from '../starter/lessons/index.ts';

const folder = mkdtempSync(join(tmpdir(), 'files-'));
const write = (name: string, text: string) => {
  writeFileSync(join(folder, name), text);
  return join(folder, name);
};
/** The sentence that something is refused with. */
const refusal = (attempt: () => unknown): string => {
  try {
    attempt();
  } catch (error) {
    if (error instanceof CannotJudge) return error.message;
    throw error;
  }
  return '';
};

describe('what is typed', () => {
  it('is understood', () => {
    expect(readArguments(['--lesson', 'tide-line'])).toEqual({
      lesson: 'tide-line',
      scripts: [],
      runs: null,
      seed: null,
      json: false,
      strength: false,
    });
    expect(
      readArguments([
        '--lesson',
        'x.json',
        '--script',
        'a',
        '--script',
        'b',
        '--runs',
        '30',
        '--seed=-5',
        '--json',
        '--strength',
      ]),
    ).toEqual({ lesson: 'x.json', scripts: ['a', 'b'], runs: 30, seed: -5, json: true, strength: true });
  });

  it.each([
    [[], /Which lesson/],
    [['--lesson'], /--lesson/],
    [['--lesson', 'x', '--runs', '9'], /whole number from 10 to 500/],
    [['--lesson', 'x', '--runs', 'many'], /whole number/],
    [['--lesson', 'x', '--seed', '1.5'], /whole number/],
    [['--lesson', 'x', '--colour'], /--colour/],
    [['--lesson', 'x', 'stray'], /stray/],
  ])('%j is refused with one sentence and the usage', (args, says) => {
    expect(refusal(() => readArguments(args))).toMatch(says);
  });
});

describe('what is read', () => {
  it('a shipped lesson by its name, another from its file', () => {
    expect(readLesson('piers-edge').title).toBe('Pier’s edge');
    const file = write('own.json', JSON.stringify({ ...harbourLessons[2], slug: 'own', title: 'Own' }));
    expect(readLesson(file)).toMatchObject({ slug: 'own', title: 'Own' });
  });

  it('a lesson as it was exported, with the usual values of its twist', () => {
    const [, , stopShort] = harbourLessons;
    for (const [name, text] of [
      ['out.json', lessonToJson(stopShort!)],
      ['out.md', lessonToMarkdown(stopShort!)],
    ] as const) {
      const lesson = readLesson(write(name, text));
      expect(lesson.aim).toBe('The tug drives up to the quay and stops 15 cm short of it.');
      expect(lesson.twist).toBeUndefined();
    }
    const newer = lessonToJson(stopShort!).replace('"version": 1', '"version": 9');
    expect(refusal(() => readLesson(write('newer.json', newer)))).toMatch(/version 9 of the format/);
  });

  it.each<[string, () => unknown, RegExp]>([
    ['a name that is none', () => readLesson('piers'), /no shipped lesson/],
    ['a file that is not there', () => readLesson(join(folder, 'none.json')), /no such file/],
    ['a file that is no JSON', () => readLesson(write('torn.json', '{"slug":')), /not whole JSON/],
    [
      'a lesson with a hole in it',
      () => readLesson(write('hole.json', JSON.stringify({ ...harbourLessons[2], course: null }))),
      /course/,
    ],
    ['a script that is not there', () => readScripts([join(folder, 'gone.txt')]), /no such file/],
    [
      'a folder without scripts',
      () => (mkdirSync(join(folder, 'empty'), { recursive: true }), readScripts([join(folder, 'empty')])),
      /no \.txt or \.script file/,
    ],
    [
      'a script as long as a book',
      () => readScripts([write('long.txt', 'stop\n'.repeat(200_000))]),
      /at most 200000 characters/,
    ],
  ])('%s is refused', (_, attempt, says) => {
    expect(refusal(attempt)).toMatch(says);
  });

  it('a folder’s scripts in the order of their names, and nothing else in it', () => {
    const teams = join(folder, 'teams');
    mkdirSync(teams);
    for (const name of ['shag.txt', 'avocet.script', 'notes.md', 'gannet.txt'])
      writeFileSync(join(teams, name), 'stop\n');
    expect(readScripts([teams]).map(({ name }) => name)).toEqual(['avocet.script', 'gannet.txt', 'shag.txt']);
  });
});
