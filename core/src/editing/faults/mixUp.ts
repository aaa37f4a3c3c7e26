import { codeLines, onMatches, withLine, type BrokenScript, type UsualFault } from './fault.ts';

const opposite: Record<string, string> = { '<': '>', '>': '<', '<=': '>=', '>=': '<=' };

/** The comparison the wrong way round. */
export const comparisonFlipped: UsualFault = (whole) =>
  onMatches(whole, 'comparison flipped', /<=|>=|<(?!>)|(?<!<)>/, ([sign]) => ({
    to: opposite[sign]!,
    name: `${sign} is typed as ${opposite[sign]}`,
  }));

/** The usual mix-ups of touch states. */
export const wrongTouch: UsualFault = (whole) => [
  ...onMatches(whole, 'wrong touch event', /\bis (pressed|bumped)\b/, ([, state]) => ({
    to: 'is released',
    name: `released is asked where ${state} is meant`,
  })),
  ...onMatches(whole, 'wrong touch event', /\bis released\b/, () => ({
    to: 'is pressed',
    name: 'pressed is asked where released is meant',
  })),
  ...onMatches(whole, 'wrong touch event', /\bis bumped\b/, () => ({
    to: 'is pressed',
    name: 'pressed is asked where bumped is meant',
  })),
];

/** Another colour than the one that is meant. */
export const wrongColour: UsualFault = (whole) =>
  onMatches(whole, 'wrong colour', /\bis (red|green|blue|yellow|black|white|brown)\b/, ([, colour]) => {
    const other = colour!.toLowerCase() === 'white' ? 'black' : 'white';
    return { to: `is ${other}`, name: `${other} is asked where ${colour} is meant` };
  });

/** Left for right. */
export const sidesSwapped: UsualFault = (whole) => [
  ...onMatches(whole, 'sides swapped', /\b(turn|spin|turret) (left|right)\b/, ([, verb, side]) => ({
    to: `${verb} ${side!.toLowerCase() === 'left' ? 'right' : 'left'}`,
    name: `left and right are mixed up in a ${verb!.toLowerCase()}`,
  })),
  ...codeLines(whole).flatMap(({ line, code }): BrokenScript[] => {
    const wheels = /^(\s*wheels )(.+) and (.+?)( for .+)?$/i.exec(code);
    if (!wheels) return [];
    const [, verb, left, right, rest = ''] = wheels;
    const text = withLine(whole, line, `${verb}${right} and ${left}${rest}`);
    return text === null ? [] : [{ kind: 'sides swapped', name: 'the wheels are mixed up', line, text }];
  }),
  ...codeLines(whole).flatMap(({ line, code }): BrokenScript[] => {
    const steer = /^(\s*steer )(.+)( at .+)$/i.exec(code);
    if (!steer) return [];
    const text = withLine(whole, line, `${steer[1]}-1 * (${steer[2]})${steer[3]}`);
    return text === null ? [] : [{ kind: 'sides swapped', name: 'it steers the wrong way', line, text }];
  }),
];

/** Ahead for back. */
export const waySwapped: UsualFault = (whole) =>
  onMatches(whole, 'way swapped', /\bdrive (-?)(?=[\d(a-z])/, ([, minus]) => ({
    to: minus ? 'drive ' : 'drive -',
    name: minus ? 'drives ahead where it should reverse' : 'reverses where it should drive ahead',
  }));

/** `and` for `or`, and the other way round. */
export const logicSwapped: UsualFault = (whole) =>
  codeLines(whole).flatMap(({ line, code }): BrokenScript[] => {
    if (!/^\s*(if|else if|wait until|repeat (until|while))\b/i.test(code)) return [];
    return [...code.matchAll(/ (and|or) /gi)].flatMap((match): BrokenScript[] => {
      const other = match[1]!.toLowerCase() === 'and' ? 'or' : 'and';
      const text = withLine(
        whole,
        line,
        `${code.slice(0, match.index)} ${other} ${code.slice(match.index + match[0].length)}`,
      );
      return text === null
        ? []
        : [{ kind: 'logic swapped', name: `${other} is typed for ${match[1]}`, line, text }];
    });
  });

/** Two sensors plugged in, or declared, the wrong way round. */
export const socketsSwapped: UsualFault = (whole) => {
  const declared = codeLines(whole).flatMap(({ line, code }) => {
    const found = /^(\s*sensor .+ on )(\S+)(.*)$/i.exec(code);
    return found ? [{ line, head: found[1]!, socket: found[2]!, rest: found[3]! }] : [];
  });
  return declared.flatMap((a, i) =>
    declared.slice(i + 1).map((b): BrokenScript => {
      const lines = [...whole.lines];
      lines[a.line - 1] = `${a.head}${b.socket}${a.rest}`;
      lines[b.line - 1] = `${b.head}${a.socket}${b.rest}`;
      return {
        kind: 'sockets swapped',
        name: `${a.socket} and ${b.socket} are mixed up`,
        line: a.line,
        text: lines.join('\n'),
      };
    }),
  );
};
