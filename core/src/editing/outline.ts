import { depthSteps, layLine, type Opening } from '../script/index.ts';

/** What a line of a script is in its outline. */
export type RowRole = 'declaration' | 'step' | 'block' | 'arm' | 'end' | 'comment' | 'blank' | 'fault';

/** One line of the step list. Lines count from 1. */
export interface OutlineRow {
  line: number;
  depth: number;
  role: RowRole;
  code: string;
  comment: string;
  /** First and last line of what the row stands for: a block with all it holds, else the line itself. */
  from: number;
  to: number;
  /** Head line of the block that the row lies in; 0 outside. */
  inside: number;
  /** The word that opens it, for a block. */
  opens: Opening | null;
}

const declarations = ['SensorStep', 'MotorStep', 'ListStep', 'LetStep'];

/** A script as rows with their depth and extent; lines that are not understood keep their place. */
export function outline(text: string): OutlineRow[] {
  const open: OutlineRow[] = [];
  const rows: OutlineRow[] = [];
  text.split('\n').forEach((typed, i) => {
    const laid = layLine(typed, i + 1);
    const { line, code, comment } = laid;
    const { before, after } = depthSteps(laid);
    const name = line.node?.name ?? '';
    const role: RowRole =
      code === ''
        ? comment === ''
          ? 'blank'
          : 'comment'
        : line.opens
          ? 'block'
          : line.error
            ? 'fault'
            : declarations.includes(name)
              ? 'declaration'
              : before < 0
                ? after > 0
                  ? 'arm'
                  : 'end'
                : 'step';
    const holder = open.at(-1);
    const row: OutlineRow = {
      line: i + 1,
      depth: Math.max(0, open.length + before),
      role,
      code,
      comment,
      from: i + 1,
      to: i + 1,
      inside: holder?.line ?? 0,
      opens: line.opens,
    };
    rows.push(row);
    if (role === 'end' && holder) {
      holder.to = i + 1;
      row.from = holder.line;
      row.inside = open.at(-2)?.line ?? 0;
      open.pop();
    }
    if (role === 'block') open.push(row);
  });
  // A block without an end holds all that follows.
  for (const row of open) row.to = rows.length;
  // An arm reaches to the next arm or to the end of its block.
  for (const row of rows) {
    if (row.role !== 'arm') continue;
    const next = rows.find(
      (other) =>
        other.line > row.line &&
        ((other.role === 'arm' && other.inside === row.inside) ||
          (other.role === 'end' && other.from === row.inside)),
    );
    row.to = (next?.line ?? rows.length + 1) - 1;
  }
  return rows;
}

/** Stretches that can be folded away: from the end of a block's head line to the end of its last line. */
export const folds = (text: string): { from: number; to: number }[] =>
  outline(text)
    .filter((row) => row.role === 'block' && row.to > row.from + 1)
    .map(({ from, to }) => ({ from, to }));
