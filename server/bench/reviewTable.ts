// npm run review-table: how often each rule of the review speaks where it should, does not, and speaks where nothing is wrong.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { courseFacts, narrowestLine, quickRuns } from '@vigilum/core/lesson';
import { review, type ReviewContext } from '@vigilum/core/review';
import { parseScript } from '@vigilum/core/script';
import { reviewTable, type ReviewTable, type TableCase } from '../../core/src/review/table.ts';
import { base, pairs, script } from '../../core/src/review/test/pairs.ts';
import { grounds, realistic } from '../../core/src/review/test/realistic.ts';
import { usualLessons } from '../src/starter/lessons/index.ts';
import { lessonRobot } from '../src/test/lessonRobot.ts';

const told: TableCase[] = [
  ...realistic.map(([wanted, what, steps, ground = 'none']): TableCase => ({
    what,
    wanted,
    found: review(parseScript(script(steps.replaceAll('|', '\n'))), grounds[ground]),
  })),
  ...pairs.flatMap(([name, rule, caught, near, context = base]): TableCase[] => [
    { what: name, wanted: rule.split(': ')[1]!, found: review(parseScript(script(caught)), context) },
    { what: `near ${name}`, wanted: null, found: review(parseScript(script(near)), context) },
  ]),
];

interface Labelled {
  lesson: string;
  right: boolean;
  what: string;
  text: string;
}
const here = import.meta.dirname;
const read = (file: string) =>
  JSON.parse(readFileSync(join(here, '../src/test', file), 'utf8')) as Labelled[];
const rightOnes = [
  ...read('verdicts.json').filter(({ right }) => right),
  ...read('moreVerdicts.json').filter(({ right }) => right),
  ...usualLessons.flatMap(({ slug, modelScript, rightToo = [] }) => [
    { lesson: slug, what: 'the model answer', text: modelScript },
    ...rightToo.map(({ name, script: text }) => ({ lesson: slug, what: name, text })),
  ]),
];
let longest = 0;
/** Scripts that do their lesson’s task, on its own robot and course: with a look, and without. */
const onCourse = (looks: boolean): TableCase[] =>
  [...new Map(rightOnes.map((one) => [one.lesson + one.text.trim(), one])).values()].map(
    ({ lesson: slug, what, text }): TableCase => {
      const lesson = usualLessons.find((one) => one.slug === slug)!;
      const known = lessonRobot(lesson);
      const context: ReviewContext = {
        kit: known.kit,
        build: known.build,
        thresholds: known.thresholds,
        surfaces: {},
        lineWidthMm: narrowestLine(lesson),
        course: courseFacts(lesson.course),
        about: lesson.need.kind,
      };
      const program = parseScript(text);
      const from = performance.now();
      const runs = looks ? quickRuns(lesson, known, program, () => performance.now()) : 'never';
      longest = Math.max(longest, performance.now() - from);
      return { what: `${slug}: ${what}`, wanted: null, found: review(program, context, runs) };
    },
  );

const percent = (part: number, of: number) => `${((100 * part) / Math.max(1, of)).toFixed(1)} %`;
function print(title: string, table: ReviewTable, rows: boolean): void {
  console.log(`\n${title}: ${table.cases} scripts`);
  if (rows) {
    console.log(
      `${'rule'.padEnd(24)}${'hits'.padStart(6)}${'misses'.padStart(8)}${'false alarms'.padStart(14)}`,
    );
    for (const { rule, hits, misses, falseAlarms } of table.rows)
      console.log(
        `${rule.padEnd(24)}${String(hits).padStart(6)}${String(misses).padStart(8)}${String(falseAlarms).padStart(14)}`,
      );
    console.log(`found: ${table.hits} of ${table.faulty} faults, ${percent(table.hits, table.faulty)}`);
  }
  console.log(
    `false alarms: on ${table.alarmed} of ${table.right} right scripts, ${percent(table.alarmed, table.right)}; false faults: ${table.falseFaults}`,
  );
  for (const missed of table.missed) console.log(`  missed  ${missed}`);
  for (const alarm of table.alarms) console.log(`  alarm   ${alarm}`);
}

print('Labelled scripts, from the text alone', reviewTable(told), true);
print('Right answers of the shipped lessons, from the text alone', reviewTable(onCourse(false)), false);
print('The same after a few quick runs', reviewTable(onCourse(true)), false);
console.log(`the longest look took ${longest.toFixed(0)} ms`);
