// How long reading and reviewing a script takes, beside a JavaScript parser on JavaScript of the same length.
import { parse } from 'acorn';
import { parseScript } from '@vigilum/core/script';
import { review, type ReviewContext } from '@vigilum/core/review';
import { cobbleBuild } from '../src/starter/build.ts';
import { cobble } from '../src/starter/cobble.ts';
import { usualLessons } from '../src/starter/lessons/index.ts';

const LINES = 300;

/** A script of 300 lines made of the model answers; `seed` makes each line with a number in it its own. */
export function longScript(seed: number): string {
  const heads = [
    'sensor floor is light on K3',
    'sensor front is distance on K2',
    'sensor nose is touch on K1',
    'sensor seen is colour on K4',
    'sensor gyro is heading on K5',
    'let lanes = 0',
    'let across = 0',
  ];
  const body = usualLessons
    .filter(({ slug }) =>
      ['tide-line', 'count-the-lanes', 'follow-the-channel', 'harbour-rules', 'hold-a-bearing'].includes(
        slug,
      ),
    )
    .flatMap(({ modelScript }) => modelScript.trim().split('\n'))
    .filter((line) => !/^(sensor|motor|let)/.test(line));
  const lines = [...heads];
  while (lines.length + body.length <= LINES) lines.push(...body);
  while (lines.length < LINES) lines.push('beep');
  // Every number is another one in every script and line, so that next to no line has been read before.
  // Whole numbers only: “0.5” with another number in it would be a slip, and slips take longer.
  return lines
    .map((line, i) => line.replace(/(?<![\w.])\d+(?![\w.])(?! and|$)/g, (n) => `${n}.${seed}${i}`))
    .join('\n');
}

/** JavaScript of as many lines, saying much the same. */
function longJavaScript(seed: number): string {
  const body = [
    'drive(25);',
    'while (!(front() < 15)) {',
    '  if (floor() < threshold && across === 0) {',
    '    lanes = lanes + 1;',
    '    across = 1;',
    '  } else if (floor() > threshold + 10) {',
    '    across = 0;',
    '  }',
    '}',
    'stop();',
    'show("Lanes: ", lanes);',
  ];
  const lines = ['let lanes = 0;', 'let across = 0;'];
  while (lines.length + body.length <= LINES) lines.push(...body);
  while (lines.length < LINES) lines.push('beep();');
  return lines.map((line, i) => line.replace(/\b\d+\b/g, (n) => `${n}.${seed}${i}`)).join('\n');
}

function median(work: (i: number) => void, rounds: number): number {
  const times = Array.from({ length: rounds }, (_, i) => {
    const from = performance.now();
    work(i);
    return performance.now() - from;
  });
  return times.sort((a, b) => a - b)[rounds >> 1]!;
}

/** Rows for the table of `npm run bench`. */
export function scriptRows(): string[][] {
  const context: ReviewContext = {
    kit: cobble,
    build: cobbleBuild,
    thresholds: { K3: 46 },
    surfaces: { K3: { low: { name: 'line', mean: 20, sd: 2 }, high: { name: 'boards', mean: 76, sd: 3 } } },
    lineWidthMm: 30,
    course: { edge: 'left', drop: true },
  };
  const rounds = 80;
  const fresh = (from: number) => Array.from({ length: rounds }, (_, i) => longScript(from + i));
  // Both sides are measured once their code is as fast as it gets.
  const warm = Array.from({ length: 4 * rounds }, (_, i) => longScript(5000 + i));
  median((i) => review(parseScript(warm[i]!), context), warm.length);
  const scripts = fresh(1000);
  const first = median((i) => review(parseScript(scripts[i]!), context), rounds);
  const typed = Array.from({ length: rounds }, (_, i) => scripts[0]!.replace(/\nbeep\n/, `\nwait ${i} s\n`));
  const typing = median((i) => review(parseScript(typed[i]!), context), rounds);
  const programs = Array.from({ length: 2 * rounds }, (_, i) => longJavaScript(i));
  const js = (i: number) => void parse(programs[i]!, { ecmaVersion: 2022, locations: true });
  median((i) => js(i % rounds), 4 * rounds);
  const theirs = median((i) => js(rounds + i), rounds);
  const show = (n: number) => n.toFixed(2);
  return [
    [
      `${LINES} lines of script, never seen`,
      `${show(first / theirs)} × a JavaScript parser’s time, review included`,
      '',
      `${show(first)} ms (wanted 16)`,
      '',
    ],
    ['the same, one line changed', `${show(typing / theirs)} ×`, '', `${show(typing)} ms`, ''],
  ];
}
