/** A script made from another one by a change that a teacher would usually let pass. */
export interface OtherAnswer {
  /** What is other about it. */
  name: string;
  text: string;
}

const digits = (value: number): string => String(Number(value.toPrecision(4)));

/** Every line changed that a pattern fits; lines that declare sensors and comments stay. */
const lineByLine = (text: string, change: (line: string) => string): string =>
  text
    .split('\n')
    .map((line) => (/^\s*(sensor|motor|list|#)/.test(line) ? line : change(line)))
    .join('\n');

const mirrored = (line: string): string =>
  /^\s*(turn|spin)\s/.test(line)
    ? line.replace(/\b(left|right)\b/, (side) => (side === 'left' ? 'right' : 'left'))
    : line;
const faster = (by: number) => (line: string) =>
  /^\s*(drive|wheels|steer|spin|turn)\s/.test(line)
    ? line.replace(
        /(\d+(?:\.\d+)?)(\s*%)/g,
        (_, n: string, sign: string) => `${digits(by * Number(n))}${sign}`,
      )
    : line;
const longerWaits = (line: string): string =>
  line.replace(
    /^(\s*wait\s+)(\d+(?:\.\d+)?)(\s*m?s\b)/,
    (_, before: string, n: string, unit: string) => `${before}${digits(1.5 * Number(n))}${unit}`,
  );
const otherWords = (line: string): string =>
  /^\s*show\s/.test(line) ? line.replace(/"(?=[^"]*")/, '"we say: ') : line;

const ways: readonly [name: string, change: (line: string) => string][] = [
  ['to the other side', mirrored],
  ['at four fifths of the speed', faster(0.8)],
  ['at six fifths of the speed', faster(1.2)],
  ['with waits half as long again', longerWaits],
  ['in other words on the display', otherWords],
];

/**
 * Scripts that do the same task otherwise: mirrored, slower, faster, more patient, in other words. Only those that differ from the
 * script. Whether each is right is for the teacher to say: in a narrow task the other side may be the wrong one.
 */
export function otherAnswers(text: string): OtherAnswer[] {
  return ways.flatMap(([name, change]) => {
    const other = lineByLine(text, change);
    return other === text ? [] : [{ name, text: other }];
  });
}
