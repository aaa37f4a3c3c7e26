import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import { commentStart, formatScript, parseScript, type Program } from './index.ts';

/** A program without its places: what it means, whatever its layout. */
function meaning(program: Program): unknown {
  const strip = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(strip);
    if (value === null || typeof value !== 'object') return value;
    const entries = Object.entries(value).filter(([key]) => !['at', 'line', 'endLine'].includes(key));
    return Object.fromEntries(entries.map(([key, inner]) => [key, strip(inner)]));
  };
  return strip({
    steps: program.steps,
    sensors: program.sensors,
    motors: program.motors,
    values: program.values,
    tasks: program.tasks,
    lists: program.lists,
    watchers: program.watchers,
  });
}

const percent = fc.integer({ min: -100, max: 100 }).map((n) => `${n} %`);
const test = fc.oneof(
  fc
    .tuple(fc.constantFrom('<', '<=', '>', '>='), fc.integer({ min: 0, max: 100 }))
    .map(([op, n]) => `floor ${op} ${n}`),
  fc.constantFrom(
    'floor < threshold',
    'not floor > 30 %',
    'floor < 20 and n > 2',
    '(floor > 90 or n = 3)',
    'left floor > threshold + 10',
    'nose is not pressed',
    'front is nothing or front < 15',
    'state(floor, left floor, threshold of floor) = 3',
    'clamp(n, -2, 3) * 2 > abs(-n) / 2',
    'left wheel >= 2 turns',
    'found',
    'not found or heard "go"',
    'seen is red or green',
    'seen is not red and is not blue',
    'seen = green',
    'front > 5 and is less than 20',
    'front is at most 12 in or ≥ 40',
    'floor is not below threshold',
    'average of readings != 3 %',
    'remainder(n, 3) == 1',
    'item 2 of readings > 5 and found is no',
  ),
);
const plain = fc.oneof(
  percent.map((p) => `drive ${p}`),
  fc
    .tuple(percent, fc.constantFrom('10 cm', '2 turns', '1.5 s', '300 ms', '4 in'))
    .map(([p, far]) => `drive ${p} for ${far}`),
  fc.tuple(percent, percent).map(([a, b]) => `wheels ${a} and ${b}`),
  fc.constantFrom(
    'stop',
    'stop and coast',
    'stop and hold',
    'clear',
    'finish',
    'wait 0.5 s',
    'set n to n + 1',
    'show "n: # " and n and max(n, 2)',
    'steer 0.4 * (58 - floor) at 25 % for 2 s',
    'turn right 90 deg at 20 %',
    'spin left at 50 %',
    'raw wheels 30 % and -20 %',
    'turret left 90 deg',
    'turret ahead',
    'zero wheels',
    'beep 500 Hz for 0.1 s at 50 %',
    'lamp off',
    'wait until front rises by 5 in',
    'wait until nose is bumped or timer > 2',
    'do hop by 3 cm, n',
    'do wait for nothing',
    'go 20 % until nose is pressed',
    'forward 20 % for 10 centimetres until front < 5',
    'back 30 % for 1 second',
    'go back n until found',
    'drive backwards 2 * (n - 3) until floor drops by 3',
    'turn right until left wheel > 90°',
    'spin left until front < 10 inches',
    'spin left at 20 % for 1 s',
    'steer 2 * (front - 15) at 30 % until nose is bumped',
    'wheels n and 20 % until floor > 30',
    'brake',
    'reset timer',
    'print "n" and found',
    'pause 0.2 s',
    'wait for 2 sec',
    'set found to yes',
    'set found to front < 10',
    'set n to random from 1 to 6',
    'add floor to readings',
    'clear readings',
    'log floor and n',
    'send "go"',
    'set n to do double by 4',
    'beep 40 * front for random from 0.1 s to 0.3 s',
  ),
  test.map((t) => `wait until ${t}`),
);
/** Well-formed scripts, as lists of lines. */
const block = fc.letrec<{ lines: string[] }>((tie) => ({
  lines: fc
    .array(
      fc.oneof(
        { depthSize: 'small', withCrossShrink: true },
        plain.map((line) => [line]),
        fc
          .tuple(
            fc.constantFrom(
              'repeat',
              'repeat 3 times',
              'repeat for 2 s',
              'repeat 3 times as i',
              'loop',
              'forever',
              'loop forever',
              'repeat n',
              'while not found',
              'until floor < 3',
            ),
            fc.constantFrom('end', 'end repeat', 'end loop'),
            tie('lines'),
          )
          .map(([head, close, body]) => [head, ...body, close]),
        fc.tuple(test, tie('lines')).map(([t, body]) => [`repeat until ${t}`, ...body, 'leave', 'end']),
        fc
          .tuple(test, tie('lines'), tie('lines'), fc.constantFrom('elif', 'else if', 'otherwise'))
          .map(([t, a, b, word]) => [
            `if ${t} then`,
            ...a,
            word === 'otherwise' ? word : `${word} ${t}`,
            ...b,
            'end if',
          ]),
      ),
      { maxLength: 5 },
    )
    .map((parts) => parts.flat()),
})).lines;
const script = block.map((lines) => [
  'sensor floor is light on K3',
  'sensor left floor is light on S-a',
  'sensor front is distance in in on K2',
  'sensor nose is touch on K1',
  'motor scan is turret on MX',
  'sensor seen is colour on K4',
  'list readings',
  'let n = 0',
  'let found = no',
  'add 3 % to readings',
  ...lines,
  'whenever nose is pressed',
  ...lines.filter((line) => line === 'stop' || line === 'set n to n + 1'),
  'end',
  'task hop by d, m',
  'drive 20 % for d',
  'set n to m',
  'end',
  'task wait for nothing',
  'end',
  'task double by some',
  'let twice = 2 * some',
  'give back twice',
  'end',
]);

describe('layout never matters', () => {
  it('well-formed scripts read without a fault', () => {
    fc.assert(
      fc.property(script, (lines) => parseScript(lines.join('\n')).findings.length === 0),
      { numRuns: 150 },
    );
  });

  it('indentation, spaces, comments, empty lines, case and line ends change nothing', () => {
    const touch = fc.record({
      before: fc.constantFrom('', '  ', '\t', '      '),
      after: fc.constantFrom('', ' ', '   # why', '\t#'),
      gap: fc.constantFrom('', '\n', '\n# between\n'),
      loud: fc.boolean(),
      wide: fc.boolean(),
    });
    fc.assert(
      fc.property(
        script,
        fc.array(touch, { minLength: 60, maxLength: 60 }),
        fc.constantFrom('\n', '\r\n'),
        (lines, touches, end) => {
          const other = lines
            .map((line, i) => {
              const { before, after, gap, loud, wide } = touches[i % touches.length]!;
              // Texts keep their case; key words and names do not care.
              const said = loud && !line.includes('"') ? line.toUpperCase().replace(/ MS\b/, ' ms') : line;
              return `${gap}${before}${wide ? said.replaceAll(' ', '  ') : said}${after}`;
            })
            .join('\n')
            .replaceAll('\n', end);
          const lower = (value: unknown) => JSON.stringify(value).toLowerCase();
          const spaced = (text: string) =>
            text.replace(
              /"value":"([^"]*)"/g,
              (_, inner: string) => `"value":"${inner.replace(/ +/g, ' ')}"`,
            );
          return spaced(lower(meaning(parseScript(other)))) === lower(meaning(parseScript(lines.join('\n'))));
        },
      ),
      { numRuns: 150 },
    );
  });

  it('laying a script out changes neither its meaning nor its comments, and twice is once', () => {
    const ragged = fc.array(fc.constantFrom('', '   ', '\t', '# why', '  #  "so"  '), {
      minLength: 40,
      maxLength: 40,
    });
    fc.assert(
      fc.property(script, ragged, (lines, between) => {
        const typed = lines.map(
          (line, i) =>
            `${between[i % 40]!.startsWith('#') ? '' : between[i % 40]!}${line} ${between[(i * 7) % 40]!}`,
        );
        const text = typed.join('\n');
        const laid = formatScript(text);
        const comments = (t: string) =>
          t
            .split('\n')
            .map((l) => l.slice(commentStart(l)).trimEnd())
            .filter(Boolean);
        expect(meaning(parseScript(laid))).toEqual(meaning(parseScript(text)));
        expect(comments(laid)).toEqual(comments(text));
        expect(formatScript(laid)).toBe(laid);
      }),
      { numRuns: 150 },
    );
  });

  it('every step knows its line', () => {
    const program = parseScript('# one\n\nsensor floor is light on K3\n\nrepeat\n\n  drive 20 %\nend\nstop');
    expect(program.steps.map((step) => step.at.line)).toEqual([5, 9]);
    const [repeat] = program.steps;
    expect(repeat?.kind === 'repeat' && [repeat.body[0]?.at.line, repeat.endLine]).toEqual([7, 8]);
  });
});
