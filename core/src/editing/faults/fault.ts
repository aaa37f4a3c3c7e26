import type { OutlineRow } from '../outline.ts';
import type { Program } from '../../script/index.ts';

/** A script that was broken in one usual way. */
export interface BrokenScript {
  /** What was done to it, in a few words: "the stop is left out". */
  name: string;
  /** Which kind of fault it is, for counting. */
  kind: string;
  line: number;
  text: string;
}

/** What a way of breaking scripts works on. Lines count from 1. */
export interface Whole {
  text: string;
  lines: readonly string[];
  rows: readonly OutlineRow[];
  program: Program;
}

/** A usual fault: all the scripts that it makes of one. */
export type UsualFault = (whole: Whole) => BrokenScript[];

/** The script with one line written differently; null when that changes nothing. */
export function withLine({ lines }: Whole, line: number, code: string): string | null {
  if (lines[line - 1] === code) return null;
  return lines.map((text, i) => (i === line - 1 ? code : text)).join('\n');
}

/** Lines that hold a step, a block's head or a branch, with their code as typed. */
export function codeLines({ lines, rows }: Whole): { line: number; code: string }[] {
  return rows.flatMap((row, i) =>
    row.role === 'blank' || row.role === 'comment' ? [] : [{ line: i + 1, code: lines[i]! }],
  );
}

/** Breaks each line that a pattern finds, once for each place in it. */
export function onMatches(
  whole: Whole,
  kind: string,
  pattern: RegExp,
  change: (match: RegExpExecArray) => { to: string; name: string } | null,
): BrokenScript[] {
  const found: BrokenScript[] = [];
  for (const { line, code } of codeLines(whole)) {
    // Words inside texts are not part of the program.
    const bare = code.replace(/"[^"]*"/g, (text) => ' '.repeat(text.length));
    for (const match of bare.matchAll(new RegExp(pattern.source, 'gi'))) {
      const changed = change(match);
      if (!changed) continue;
      const at = match.index;
      const text = withLine(whole, line, code.slice(0, at) + changed.to + code.slice(at + match[0].length));
      if (text !== null) found.push({ name: changed.name, kind, line, text });
    }
  }
  return found;
}
