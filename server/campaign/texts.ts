import { kitSchema, lessonSchema } from '@vigilum/contract/files';
import { outline } from '@vigilum/core/editing';
import { readFormula } from '@vigilum/core/expect';
import {
  lessonToJson,
  lessonToMarkdown,
  logHead,
  readCsv,
  readFromRobot,
  readLessonJson,
  readLessonMarkdown,
  readTeamNames,
  writeCsv,
} from '@vigilum/core/formats';
import { variantOf } from '@vigilum/core/lesson';
import { carryOver } from '@vigilum/core/phrasebook';
import { formatScript, parseScript } from '@vigilum/core/script';
import { cobble } from '../src/starter/cobble.ts';
import { cobbleTalk } from '../src/starter/cobbleTalk.ts';
import { tideLine } from '../src/starter/tideLine.ts';
import { dice, type Outcome } from './bench.ts';

/** How long one text may take, ms. */
const MOST_MS = 1000;

const many = (text: string, n: number): string => text.repeat(n);
const deep = (open: string, inner: string, close: string, n: number): string =>
  many(open, n) + inner + many(close, n);

/** Texts that nobody writes by hand, and what reads each. Readers that must not be given more than a size are given that size. */
const pathological: [string, () => unknown][] = [
  ...(
    ['if 1 < 2\n', 'repeat\n', 'repeat 3 times\n', 'forever\n', 'task x\n', 'else\n', 'end\n'] as const
  ).flatMap((line): [string, () => unknown][] => [
    [`script: 20,000 × ${line.trim()}`, () => parseScript(many(line, 20_000))],
    [`outline: 2,000 × ${line.trim()}`, () => outline(many(line, 2000))],
    [`layout: 20,000 × ${line.trim()}`, () => formatScript(many(line, 20_000))],
  ]),
  ['script: 100,000 brackets', () => parseScript(`wait ${deep('(', '1', ')', 100_000)} s`)],
  ['script: a line of 500,000 letters', () => parseScript(`show "${many('x', 500_000)}"`)],
  ['script: 190,000 minus signs', () => parseScript(`wait ${many('-', 190_000)}1 s`)],
  ['script: 60,000 times and', () => parseScript(`wait until a < 1${many(' and a < 1', 19_000)}`)],
  ['script: line ends alone', () => parseScript(many('\r', 190_000))],
  ['formula: 100,000 brackets', () => readFormula(deep('(', 'speed < 1', ')', 100_000))],
  ['formula: 100,000 nots', () => readFormula(`${many('not ', 100_000)}speed < 1`)],
  ['formula: 50,000 always', () => readFormula(`${many('always ', 50_000)}speed < 1`)],
  ['formula: 20,000 ands', () => readFormula(`speed < 1${many(' and speed < 1', 20_000)}`)],
  ['program: 5,000 nested if', () => carryOver(many('if x < 2:\n', 5000), cobbleTalk)],
  [
    'program: 5,000 indented if',
    () =>
      carryOver(
        Array.from({ length: 5000 }, (_, i) => `${many(' ', i % 200)}if x < 2:\n`).join(''),
        cobbleTalk,
      ),
  ],
  ['program: 5,000 brackets', () => carryOver(`x = ${deep('(', '1', ')', 5000)}`, cobbleTalk)],
  [
    'program: C, 5,000 blocks',
    () => carryOver(deep('if (x) {\n', '', '}\n', 5000), { ...cobbleTalk, syntax: 'c' }),
  ],
  ['CSV: 24 million line ends', () => readCsv(many('\n', 24_000_000))],
  ['CSV: 2 MB of quotation marks', () => readCsv(many('"', 2_000_000))],
  ['CSV: 2 MB of commas', () => readCsv(many(',', 2_000_000))],
  ['CSV: an open quotation mark', () => readCsv(`a,b\n"${many('x\n', 450_000)}`)],
  ['CSV: 450,000 lines', () => readCsv(many('1,2\n', 450_000))],
  ['team names: 20,000 line ends', () => readTeamNames(many('\n', 19_999))],
  ['team names: 20,000 commas', () => readTeamNames(many(',', 19_999))],
  ['run log: 5 MB of line ends', () => logHead(many('\n', 5_000_000))],
  ['run log: 100,000 columns', () => logHead(`${many('a,', 100_000)}\n1`)],
  ['Markdown: 130,000 backticks', () => lessonToMarkdown({ ...tideLine, modelScript: many('`', 130_000) })],
  [
    'Markdown: 130,000 single backticks',
    () => lessonToMarkdown({ ...tideLine, modelScript: many('` ', 65_000) }),
  ],
  ['Markdown: read 1.9 MB of fences', () => readLessonMarkdown(many('```\n', 475_000))],
  [
    'Markdown: read 1.9 MB of headings',
    () => readLessonMarkdown(many('## a: b (1 min) <!-- brief a -->\n', 55_000)),
  ],
  ['lesson JSON: 1.9 MB of brackets', () => readLessonJson(many('[', 1_900_000))],
  ['lesson JSON: 100,000 deep', () => readLessonJson(deep('{"a":', '1', '}', 100_000))],
  ['lesson: 8,000 placeholders a text', () => variantOf({ ...tideLine, aim: many('{gap}', 1600) })],
  ['line protocol: 200 KB', () => readFromRobot(many('r', 200_000))],
  ['line protocol: brackets', () => readFromRobot(deep('[', '', ']', 100_000))],
];

/** Texts beyond reason: each is read or refused in less than a second. */
export function hard(): Promise<Outcome> {
  const notes: string[] = [];
  let held = 0;
  let slowest = { name: '', ms: 0 };
  for (const [name, read] of pathological) {
    const from = performance.now();
    let failed = '';
    try {
      read();
    } catch (error) {
      failed = String(error).slice(0, 100);
    }
    const ms = performance.now() - from;
    if (ms > slowest.ms) slowest = { name, ms };
    if (ms < MOST_MS && failed === '') held++;
    else notes.push(`${name}: ${Math.round(ms)} ms ${failed}`);
  }
  notes.push(`the slowest: ${slowest.name}, ${Math.round(slowest.ms)} ms`);
  return Promise.resolve({ part: 'texts beyond reason', tried: pathological.length, held, notes });
}

/** A text with a few bytes changed, cut out, doubled or put in. */
export function hurt(text: string, random: (n: number) => number): string {
  let result = text;
  for (let i = 0; i <= random(4); i++) {
    const at = random(result.length + 1);
    const piece = result.slice(at, at + 1 + random(40));
    const way = random(5);
    if (way === 0) result = result.slice(0, at) + result.slice(at + piece.length);
    else if (way === 1) result = result.slice(0, at) + piece + piece + result.slice(at + piece.length);
    else if (way === 2) result = result.slice(0, at);
    else if (way === 3)
      result = result.slice(0, at) + String.fromCharCode(random(0x3000)) + result.slice(at + 1);
    else
      result =
        result.slice(0, at) +
        ['"', '{', '}', '-1e309', 'null', '\\u0000', ',,', '\n'][random(8)]! +
        result.slice(at);
  }
  return result;
}

/** Damaged files of every kind: read or refused, never a crash. */
export function files(n: number): Promise<Outcome> {
  const random = dice(23);
  const json = lessonToJson(tideLine);
  const markdown = lessonToMarkdown(tideLine);
  const csv = writeCsv([
    ['socket', 'surface', 'value'],
    ...Array.from({ length: 60 }, (_, i) => ['K3', 'tide line', i]),
  ]);
  const kit = JSON.stringify(cobble);
  const judged = (schema: typeof lessonSchema | typeof kitSchema, text: string) => {
    const read = readLessonJson(text);
    if (read.ok) schema.validate(read.value);
  };
  const readers: [string, string, (text: string) => unknown][] = [
    ['lesson', json, (text) => judged(lessonSchema, text)],
    ['Markdown', markdown, (text) => readLessonMarkdown(text)],
    ['CSV', csv, (text) => [readCsv(text), readTeamNames(text), logHead(text)]],
    ['kit', kit, (text) => judged(kitSchema, text)],
    ['script', tideLine.modelScript, (text) => [parseScript(text), formatScript(text), outline(text)]],
    [
      'program',
      'while True:\n  motor(30)\n  if light() < 40:\n    stop()\n',
      (text) => carryOver(text, cobbleTalk),
    ],
  ];
  const notes: string[] = [];
  let held = 0;
  for (let i = 0; i < n; i++) {
    const [name, whole, read] = readers[i % readers.length]!;
    const text = hurt(whole, random);
    const from = performance.now();
    try {
      read(text);
      const ms = performance.now() - from;
      if (ms < MOST_MS) held++;
      else notes.push(`${name}: ${Math.round(ms)} ms`);
    } catch (error) {
      if (notes.length < 8)
        notes.push(`${name}: ${String(error).slice(0, 120)} at ${JSON.stringify(text.slice(0, 80))}`);
    }
  }
  return Promise.resolve({ part: 'damaged files', tried: n, held, notes });
}
