import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { canRun, formatScript, keywords, parseScript, softWords } from '../script/index.ts';
import { completionsAt, explainAt, outline, stepPieces } from '../editing/index.ts';
import { simulate } from '../sim/index.ts';
import { fullBuild, fullKit } from '../test/index.ts';
// The test bench of the simulator: a robot on a mat, calm but for what a test says.
// eslint-disable-next-line no-restricted-imports
import { setup } from '../sim/test/setup.ts';
import { review, type ReviewContext } from './index.ts';

const context: ReviewContext = {
  kit: fullKit,
  build: fullBuild,
  thresholds: { K3: 49 },
  surfaces: { K3: { low: { name: 'line', mean: 22, sd: 2 }, high: { name: 'boards', mean: 76, sd: 3 } } },
  lineWidthMm: 18,
  course: {
    drop: true,
    opponent: true,
    edge: 'left',
    startReadings: { K3: 76 },
    target: { widthMm: 80, rangeMm: 400 },
  },
};

const heads = `sensor floor is light on K3
sensor front is distance in in on K2
sensor nose is touch on K1
sensor gyro is heading on K5
let n = 0
`;
/** Two scripts that hold every construct between them, from which others are made by damage. */
const wholes = [
  `${heads}let gap = 15 cm
list readings
let found = no
drive -30 % for 10 cm  # back
go back 20 % until nose is pressed
repeat until front < gap and not nose is pressed
  if floor < threshold + 2
    set n to n + 1
    wait until floor rises by 30 or timer > 2
  else if gyro >= 90
    steer 0.4 * (58 - floor) at 25 % for 1 s
    do hop by 3 cm, n
  elif front > 5 and is less than 20 then
    add floor to readings
    set found to yes
  else
    wheels 0.5 * (90 - gyro) and clamp(n, -9, 9) * 1 %
    leave
  end
end
stop and coast
task hop by d, m
  drive 20 % for d
  set n to max(m, 3) / 2
end
whenever nose is bumped
  log n and average of readings
  drive -20 % for 3 cm
end`,
  `${heads}sensor eye is rgb on K3
motor scan is turret on MX
repeat 4 times as i
  turn right until gyro >= 88
  turn right 90 deg at 20 %
  spin left at 20 %
  beep 500 Hz for 0.1 s at 5 %
  show "n: " and state(floor, floor, 40 %) and n
  if eye.red > item 2 of eye or front is nothing
    lamp red
  end
end
zero wheels
turret left 90 deg
raw drive 20 % for 1 s
zero heading
spin right at 20 %
wait until gyro > 80
set n to do roll by 6
send "go"
while not heard "go"
  pause random from 0.1 s to 0.2 s
end loop
finish
task roll by sides
  let sum = 0
  repeat 3 times
    set sum to sum + random from 1 to sides
  end
  give back remainder(sum, 4)
end`,
];
const words = [
  ...keywords,
  ...softWords,
  'floor',
  'front',
  'nose',
  'n',
  'gap',
  'hop',
  'K3',
  '%',
  'cm',
  'deg',
  's',
  '1e9',
  '0',
  '-1',
  '99999999999999999999',
  '<',
  '=',
  '+',
  '*',
  '/',
  '(',
  ')',
  ',',
  '.',
  '"',
  '#',
  '\n',
  'end\n',
  'repeat\n',
  'if floor < 3\n',
  'task\n',
];

const damage = fc.array(
  fc.record({
    how: fc.constantFrom('drop', 'double', 'swap', 'word', 'cut', 'bytes'),
    at: fc.nat({ max: 2000 }),
    other: fc.nat({ max: 2000 }),
    word: fc.oneof(fc.constantFrom(...words), fc.string({ maxLength: 8 })),
  }),
  { minLength: 1, maxLength: 12 },
);
const damaged = fc.tuple(fc.constantFrom(...wholes), damage).map(([whole, list]) => {
  let lines = whole.split('\n');
  for (const { how, at, other, word } of list) {
    const [i, j] = [at % lines.length, other % lines.length];
    const line = lines[i] ?? '';
    if (how === 'drop') lines.splice(i, 1);
    else if (how === 'double') lines.splice(j, 0, line);
    else if (how === 'swap') [lines[i], lines[j]] = [lines[j] ?? '', line];
    else if (how === 'cut') lines[i] = line.slice(0, other % (line.length + 1));
    else {
      const parts = line.split(' ');
      if (how === 'word') parts[other % parts.length] = word;
      else parts.splice(other % parts.length, 0, word);
      lines[i] = parts.join(' ');
    }
    lines = lines.join('\n').split('\n');
    if (lines.length === 0) lines = [''];
  }
  return lines.join('\n');
});
const noise = fc.oneof(
  fc.array(fc.constantFrom(...words), { maxLength: 80 }).map((list) => list.join(' ')),
  fc.string({ unit: 'binary', maxLength: 300 }),
);

/** FUZZ_RUNS asks for more. */
const RUNS = Number(process.env.FUZZ_RUNS ?? 10_000);

/** A sentence that a missing value has slipped into; what a script says itself may be quoted. */
const senseless = (says: string, text: string) =>
  ['undefined', 'NaN'].some((word) => says.includes(word) && !text.includes(word));

/** Everything that Vigilum does with a script that somebody sends. */
function handle(text: string, seed: number): void {
  const program = parseScript(text);
  const findings = review(program, context);
  for (const f of findings) {
    if (f.line < 1 || f.column < 1 || f.says === '' || senseless(f.says + f.why + f.mend, text)) {
      throw new Error(`A finding without sense: ${JSON.stringify(f)}`);
    }
  }
  const laid = formatScript(text);
  if (formatScript(laid) !== laid) throw new Error('Laid out twice, it changed.');
  const rows = outline(text);
  const row = rows[seed % rows.length]!;
  stepPieces(row.code, program, context);
  completionsAt(row.code, row.code.length, program, context);
  explainAt(row.code, seed % (row.code.length + 1), program, context);
  if (canRun(program)) simulate({ ...setup('stop'), program, timeLimitMs: 300 });
}

describe('a script from a stranger', () => {
  // Damaged scripts, and words and bytes at random.
  it(
    'never crashes or hangs what reads, reviews, lays out, explains or runs it',
    () => {
      expect(() =>
        fc.assert(
          fc.property(
            fc.oneof({ weight: 3, arbitrary: damaged }, { weight: 2, arbitrary: noise }),
            fc.nat(),
            handle,
          ),
          { numRuns: RUNS },
        ),
      ).not.toThrow();
    },
    300_000 * (RUNS / 20_000),
  );

  it.each(wholes)('is made from one that runs', (whole) => {
    const program = parseScript(whole);
    expect(program.findings).toEqual([]);
    const run = simulate({ ...setup('stop'), program, timeLimitMs: 3000 });
    expect(run.ended.how).not.toBe('error');
  });

  it('cannot make a reader work for long: 200 kB, 2,000 lines, brackets, endless names', () => {
    const started = performance.now();
    for (const text of [
      'x'.repeat(200_000),
      'drive '.repeat(33_000),
      `drive ${'('.repeat(60_000)}1${')'.repeat(60_000)}`,
      'repeat\n'.repeat(2000),
      `show ${'not '.repeat(40_000)}1`,
      `show ${'1 + '.repeat(40_000)}1`,
      'task a\ndo b\ndo b\nend\n'.repeat(400),
      Array.from({ length: 400 }, (_, i) => `task t${i}\ndo t${i + 1}\ndo t${i + 1}\nend`).join('\n'),
    ]) {
      review(parseScript(text), context);
      formatScript(text);
    }
    // Seconds would be a hang; the time itself is no matter of this test.
    expect(performance.now() - started).toBeLessThan(60_000);
  }, 120_000);
});
