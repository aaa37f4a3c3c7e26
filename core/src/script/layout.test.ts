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
          .tuple(fc.constantFrom('repeat', 'repeat 3 times', 'repeat for 2 s'), tie('lines'))
          .map(([head, body]) => [head, ...body, 'end']),
        fc.tuple(test, tie('lines')).map(([t, body]) => [`repeat until ${t}`, ...body, 'leave', 'end']),
        fc.tuple(test, tie('lines'), tie('lines')).map(([t, a, b]) => [`if ${t}`, ...a, 'else', ...b, 'end']),
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
  'let n = 0',
  ...lines,
  'task hop by d, m',
  'drive 20 % for d',
  'set n to m',
  'end',
  'task wait for nothing',
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
