import { removeStep, unwrapBlock } from '../edit.ts';
import { codeLines, type BrokenScript, type UsualFault } from './fault.ts';

/** Steps that teams leave out, by how their line begins. */
const kinds: [kind: string, begins: RegExp, name: string][] = [
  ['stop left out', /^\s*stop\b/i, 'a stop is left out'],
  ['wait left out', /^\s*wait\b/i, 'a wait is left out'],
  ['zeroing left out', /^\s*zero\b/i, 'the zeroing is left out'],
  ['set left out', /^\s*set\b/i, 'a value is never set'],
  ['show left out', /^\s*(show|clear)\b/i, 'the display is left out'],
  ['move left out', /^\s*(drive|wheels|steer|turn|spin|turret)\b/i, 'a movement is left out'],
  ['own step left out', /^\s*do\b/i, 'an own step is not done'],
];

/** One step missing. */
export const stepLeftOut: UsualFault = (whole) =>
  codeLines(whole).flatMap(({ line, code }): BrokenScript[] => {
    const found = kinds.find(([, begins]) => begins.test(code));
    return found ? [{ kind: found[0], name: found[2], line, text: removeStep(whole.text, line).text }] : [];
  });

/** A repeat missing: its steps are done once. */
export const loopLost: UsualFault = (whole) =>
  codeLines(whole).flatMap(({ line, code }): BrokenScript[] => {
    if (!/^\s*repeat\b/i.test(code)) return [];
    const without = unwrapBlock(whole.text, line);
    return without
      ? [{ kind: 'loop lost', name: 'a repeat is lost: done once', line, text: without.text }]
      : [];
  });

/** One branch of a decision missing. */
export const branchLost: UsualFault = (whole) =>
  whole.rows.flatMap((row): BrokenScript[] => {
    if (row.role !== 'arm') return [];
    const text = removeStep(whole.text, row.line).text;
    return [{ kind: 'branch lost', name: 'a branch of a decision is left out', line: row.line, text }];
  });
