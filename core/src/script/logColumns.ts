import type { Program } from './ast.ts';
import { fault } from './findings.ts';
import { walkProgram } from './walk.ts';

/** Most columns of a log. */
const LOG_COLUMNS = 40;

/** A log with very many columns would be no table to look at, and would take the memory of many runs. */
export function refuseWideLogs(program: Program): void {
  const columns = new Set<string>();
  walkProgram(program, (step) => {
    if (step.kind !== 'log' || columns.size > LOG_COLUMNS) return;
    for (const { at } of step.items)
      columns.add((program.source[at.line - 1] ?? '').slice(at.column - 1, at.column - 1 + at.length));
    if (columns.size <= LOG_COLUMNS) return;
    const says = `A log has at most ${LOG_COLUMNS} columns.`;
    program.findings.push(fault(step.at, 'size', says, 'Log fewer different things.'));
  });
}
