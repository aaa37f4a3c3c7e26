import { depthSteps, layLine, writeLine } from '../script/index.ts';
import type { Fix } from '../script/index.ts';
import { outline, type OutlineRow } from './outline.ts';

/** A changed script, and the line to look at now. */
export interface Edited {
  text: string;
  line: number;
}

const linesOf = (text: string) => text.split('\n');

/** Lays the indentation of some lines afresh; all others stay as they are. */
function settle(lines: string[], from: number, to: number): string[] {
  let depth = 0;
  return lines.map((text, i) => {
    const laid = layLine(text, i + 1);
    const { before, after } = depthSteps(laid);
    depth = Math.max(0, depth + before);
    const at = depth;
    depth += after;
    if (i + 1 < from || i + 1 > to) return text;
    const typed = text.trim();
    return typed === '' ? '' : writeLine({ code: typed, comment: '' }, at);
  });
}

/** The comments that stand right above a row belong to it. */
function withComments(rows: readonly OutlineRow[], row: OutlineRow): { from: number; to: number } {
  let { from } = row;
  while (from > 1 && rows[from - 2]!.role === 'comment') from--;
  return { from, to: row.to };
}

/** What a row stands for, as lines that can be taken out without breaking a block: an `end` stands for its block. */
function extent(rows: readonly OutlineRow[], line: number): { from: number; to: number } | null {
  const row = rows[line - 1];
  if (!row) return null;
  if (row.role === 'end') return row.from < row.line ? extent(rows, row.from) : { from: line, to: line };
  if (row.role === 'arm') return { from: row.from, to: row.to };
  return withComments(rows, row);
}

/**
 * Writes new steps after a line (0: at the top), each at its depth. `code` may have several lines, such as a block
 * with its `end`. Where the line opens a block, the new steps come first inside it.
 */
export function insertSteps(text: string, after: number, code: string): Edited {
  const lines = text === '' ? [] : linesOf(text);
  const at = Math.max(0, Math.min(after, lines.length));
  const added = code.split('\n');
  lines.splice(at, 0, ...added);
  return { text: settle(lines, at + 1, at + added.length).join('\n'), line: at + 1 };
}

/** Takes a step out, a block with all it holds and the comments right above it. */
export function removeStep(text: string, line: number): Edited {
  const range = extent(outline(text), line);
  if (!range) return { text, line };
  const lines = linesOf(text);
  lines.splice(range.from - 1, range.to - range.from + 1);
  return { text: lines.join('\n'), line: Math.min(range.from, Math.max(1, lines.length)) };
}

/** Takes a block's head and `end` away and keeps what it holds; null for what is no closed block without arms. */
export function unwrapBlock(text: string, line: number): Edited | null {
  const rows = outline(text);
  const head = rows[line - 1];
  if (head?.role !== 'block' || rows[head.to - 1]?.role !== 'end') return null;
  if (rows.some((row) => row.role === 'arm' && row.inside === line)) return null;
  const lines = linesOf(text);
  lines.splice(head.to - 1, 1);
  lines.splice(line - 1, 1);
  return { text: settle(lines, line, head.to - 2).join('\n'), line };
}

/** Puts a step, or a block with all it holds, inside a new block such as `repeat`. */
export function wrapStep(text: string, line: number, head: string): Edited {
  const range = extent(outline(text), line);
  if (!range) return { text, line };
  const lines = linesOf(text);
  lines.splice(range.to, 0, 'end');
  lines.splice(range.from - 1, 0, head);
  return { text: settle(lines, range.from, range.to + 2).join('\n'), line: range.from };
}

/** Writes another step in a line's place; its comment stays. */
export function replaceStep(text: string, line: number, code: string): Edited {
  const lines = linesOf(text);
  const before = layLine(lines[line - 1] ?? '', line);
  lines[line - 1] = writeLine({ code: code.trim(), comment: before.comment }, 0);
  return { text: settle(lines, line, line).join('\n'), line };
}

/**
 * Moves a step, a block with all it holds, to just after another line (0: to the top). Null when the target lies
 * inside what is moved, or when nothing would change.
 */
export function moveStep(text: string, line: number, after: number): Edited | null {
  const rows = outline(text);
  if (rows[line - 1]?.role === 'arm') return null;
  const range = extent(rows, line);
  if (!range || after > rows.length || (after >= range.from - 1 && after <= range.to)) return null;
  const lines = linesOf(text);
  const taken = lines.splice(range.from - 1, range.to - range.from + 1);
  const at = after > range.to ? after - taken.length : after;
  lines.splice(at, 0, ...taken);
  return {
    text: settle(lines, at + 1, at + taken.length).join('\n'),
    line: at + 1 + (line - range.from),
  };
}

/** Moves a step one line up or down: past a step, into a block, or out of it. Null at either end. */
export function nudgeStep(text: string, line: number, way: 'up' | 'down'): Edited | null {
  const rows = outline(text);
  const range = extent(rows, line);
  const row = rows[line - 1];
  if (!range || !row || row.role === 'arm') return null;
  const steps = way === 'up' ? -1 : 1;
  let over = way === 'up' ? range.from - 1 : range.to + 1;
  while (rows[over - 1]?.role === 'blank') over += steps;
  const past = rows[over - 1];
  if (!past) return null;
  // An own step stands outside every block, so it goes past a whole one at once.
  const whole =
    row.opens === 'task' || row.opens === 'whenever'
      ? (extent(rows, over) ?? past)
      : { from: over, to: over };
  return moveStep(text, line, way === 'up' ? whole.from - 1 : whole.to);
}

/** Moves a step to the end of the block right above it; null when there is none. */
export function indentStep(text: string, line: number): Edited | null {
  const rows = outline(text);
  const range = extent(rows, line);
  if (!range) return null;
  let above = range.from - 1;
  while (rows[above - 1]?.role === 'blank') above--;
  return rows[above - 1]?.role === 'end' ? moveStep(text, line, above - 1) : null;
}

/** Moves a step out of its block, to just after it; null when it lies in none. */
export function outdentStep(text: string, line: number): Edited | null {
  const rows = outline(text);
  const row = rows[line - 1];
  if (!row || row.role === 'arm' || row.inside === 0) return null;
  return moveStep(text, line, rows[row.inside - 1]!.to);
}

/** Does what a finding's one-tap mend says. */
export function applyFix(text: string, { edit }: Fix): Edited {
  switch (edit.kind) {
    case 'insert':
      return insertSteps(text, edit.after, edit.text);
    case 'remove':
      return removeStep(text, edit.line);
    case 'replace': {
      const { line, column, length } = edit.at;
      const lines = linesOf(text);
      const old = lines[line - 1] ?? '';
      lines[line - 1] = old.slice(0, column - 1) + edit.text + old.slice(column - 1 + length);
      return { text: lines.join('\n'), line };
    }
  }
}
