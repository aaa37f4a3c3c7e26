// Judges scripts as teams write them, right and wrong, in a process of its own (a test's sandbox is ten times slower).
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { passed } from '@vigilum/core/expect';
import { proveOnce, runSeed, type Lesson } from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { usualLessons } from '../starter/lessons/index.ts';
import { lessonRobot } from './lessonRobot.ts';

/** A script with what a teacher who reads the lesson's text says of it. */
export interface LabelledScript {
  lesson: string;
  right: boolean;
  what: string;
  text: string;
}

export interface TaskVerdict {
  lesson: string;
  right: boolean;
  what: string;
  passes: number;
  runs: number;
}

/** Fewer runs than a proof, and no more than are needed to tell: two unlucky ones are forgiven. */
const RUNS = 24;
const FORGIVEN = 2;

/** The folder of the labelled scripts is the program's argument. */
const read = (file: string) =>
  JSON.parse(readFileSync(join(process.argv[2]!, file), 'utf8')) as LabelledScript[];

function judged({ lesson: slug, right, what, text }: LabelledScript): TaskVerdict {
  const lesson: Lesson = usualLessons.find((one) => one.slug === slug)!;
  const known = lessonRobot(lesson);
  const program = parseScript(text);
  let [passes, runs] = [0, 0];
  while (canRun(program) && runs < RUNS && runs - passes <= FORGIVEN) {
    if (passed(proveOnce(lesson, known, program, runSeed(lesson.proof.seed, runs++)))) passes++;
  }
  return { lesson: slug, right, what, passes, runs };
}

const rightToo = usualLessons.flatMap(({ slug, rightToo = [] }) =>
  rightToo.map(({ name, script }): LabelledScript => ({
    lesson: slug,
    right: true,
    what: name,
    text: script,
  })),
);
const labelled = [...read('verdicts.json'), ...read('moreVerdicts.json')];
const known = new Set(labelled.map(({ text }) => text.trim()));
const all = [...labelled, ...rightToo.filter(({ text }) => !known.has(text.trim()))];
process.stdout.write(JSON.stringify(all.map(judged)));
