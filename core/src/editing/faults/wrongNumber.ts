import { onMatches, codeLines, withLine, type BrokenScript, type UsualFault } from './fault.ts';

/** Twice as fast, where that is possible, and half as fast. */
export const wrongSpeed: UsualFault = (whole) =>
  codeLines(whole).flatMap(({ line, code }): BrokenScript[] => {
    if (!/^\s*(raw )?(drive|wheels|steer|spin|turn)\b/i.test(code)) return [];
    const found = [...code.matchAll(/(-?)(\d+(?:\.\d+)?)( ?%)/g)];
    return found.flatMap((match): BrokenScript[] => {
      const fast = Math.min(100, 2 * Number(match[2]));
      const to = `${match[1]}${fast}${match[3]}`;
      const text = withLine(
        whole,
        line,
        code.slice(0, match.index) + to + code.slice(match.index + match[0].length),
      );
      return text === null
        ? []
        : [{ kind: 'twice as fast', name: `${to.trim()} instead of ${match[0].trim()}`, line, text }];
    });
  });

/** One unit for another: centimetres for inches, seconds for milliseconds, degrees for turns. */
const mistaken: Record<string, string> = { cm: 'in', in: 'cm', mm: 'cm', s: 'ms', ms: 's', turns: 'deg' };
export const wrongUnit: UsualFault = (whole) =>
  onMatches(whole, 'wrong unit', /(\d ?)(cm|in|mm|ms|s|turns)\b(?! \w+ on )/, ([, number, unit]) => {
    const other = mistaken[unit!.toLowerCase()]!;
    return { to: `${number}${other}`, name: `${unit} is mistaken for ${other}` };
  });

/** The decided threshold on the wrong side of both surfaces. */
export const wrongThreshold: UsualFault = (whole) =>
  onMatches(whole, 'threshold on the wrong side', /\bthreshold\b/, () => ({
    to: 'threshold * 0.1',
    name: 'the threshold lies below everything that is read',
  })).concat(
    onMatches(whole, 'threshold on the wrong side', /\bthreshold\b/, () => ({
      to: 'threshold * 2.5',
      name: 'the threshold lies above everything that is read',
    })),
  );

/** A number in a comparison or a distance twice as large. */
export const wrongAmount: UsualFault = (whole) => [
  ...onMatches(
    whole,
    'wrong amount',
    /([<>]=? ?)(-?\d+(?:\.\d+)?)(?= ?(?:%|cm|mm|in|deg|turns|s|ms)?\b)/,
    ([, sign, number]) => ({
      to: `${sign}${2 * Number(number)}`,
      name: `${2 * Number(number)} is asked where ${number} is meant`,
    }),
  ),
  ...onMatches(
    whole,
    'wrong amount',
    /\b(for|by) (\d+(?:\.\d+)?)(?= ?(?:cm|mm|in|deg|turns|s)\b)/,
    ([, word, number]) => ({
      to: `${word} ${2 * Number(number)}`,
      name: `${2 * Number(number)} instead of ${number}`,
    }),
  ),
  ...onMatches(
    whole,
    'wrong amount',
    /\b(turn|turret) (left|right) (\d+(?:\.\d+)?) deg\b/,
    ([, verb, side, number]) => ({
      to: `${verb} ${side} ${Number(number) / 2} deg`,
      name: `half the turn: ${Number(number) / 2} instead of ${number} degrees`,
    }),
  ),
];

/** One round too few, or counting from the wrong number. */
export const wrongCount: UsualFault = (whole) => [
  ...onMatches(whole, 'wrong count', /\brepeat (\d+) times\b/, ([, n]) =>
    Number(n) > 1 ? { to: `repeat ${Number(n) - 1} times`, name: 'one round too few' } : null,
  ),
  ...onMatches(whole, 'wrong count', /^(\s*let .+ = )0$/, ([, head]) => ({
    to: `${head}1`,
    name: 'a value begins at 1 instead of 0',
  })),
];

/** Five times the gain, or a fifth of it. */
export const wrongGain: UsualFault = (whole) =>
  codeLines(whole).flatMap(({ line, code }): BrokenScript[] => {
    const found = /^(\s*steer )(\d+(?:\.\d+)?)( \* .+)$/i.exec(code);
    if (!found) return [];
    return [0.1, 8].flatMap((by): BrokenScript[] => {
      const gain = Number((Number(found[2]) * by).toFixed(3));
      const text = withLine(whole, line, `${found[1]}${gain}${found[3]}`);
      return text === null ? [] : [{ kind: 'wrong gain', name: `a gain of ${gain}`, line, text }];
    });
  });
