import { formatNumber } from '../quantity/index.ts';
import type { Finding } from '../script/index.ts';
import { finding, type Rule } from './context.ts';
import { MotionFlow } from './motionOf.ts';

/** Rule 1: the motors still turn when the last step is done, on some way through the program. */
export const rollsOn: Rule = (program, { kit }) => {
  const last = program.steps.at(-1);
  // A program that is not whole yet has no end to speak of.
  if (!last || program.findings.length > 0) return [];
  const { falls, ends } = new MotionFlow(program).after(program.steps, new Set([null]));
  const end = kit.atProgramEnd;
  const rolls = end.kind === 'roll';
  const what = rolls
    ? `this kit rolls on for ${formatNumber(end.forMs / 1000)} s.`
    : 'this kit stops its motors when the program ends; another might roll on.';
  const tell = (at: Finding, sometimes: boolean, where: string) =>
    finding(
      at,
      rolls ? 'fault' : 'note',
      'no stop',
      sometimes ? 'On one way through, no step says stop.' : 'No step says stop.',
      `${where} nothing is left to do, and ${what}`,
      'Three things happen: go, see, stop. Write the third.',
      at.fix,
    );
  const found: Finding[] = [];
  const moving = (set: typeof falls) => [...set].some((one) => one !== null);
  if (moving(falls)) {
    const after = program.lastLine;
    const fix = {
      label: `Add “stop” after line ${after}`,
      edit: { kind: 'insert' as const, after, text: 'stop' },
    };
    found.push(tell({ ...last.at, fix } as Finding, falls.has(null), `After line ${after}`));
  }
  for (const { moving: set, at } of ends) {
    if (!moving(set)) continue;
    const line = at.at.line;
    const fix = {
      label: `Add “stop” before line ${line}`,
      edit: { kind: 'insert' as const, after: line - 1, text: 'stop' },
    };
    found.push(tell({ ...at.at, fix } as Finding, set.has(null), `With “finish” in line ${line}`));
  }
  return found;
};
