import type { SyntaxNode } from '@lezer/common';
import type { Arm, Program, Step } from './ast.ts';
import { fault, type Place } from './findings.ts';
import type { Line } from './lines.ts';
import type { LineReader } from './lower.ts';
import { LineFault } from './names.ts';

/** Blocks may not lie deeper in each other. */
export const DEEPEST_BLOCK = 30;

type Block = Extract<Step, { kind: 'repeat' | 'if' }>;

/** The repeats and decisions that are open while a part of the script is read, and the list that its steps go into. */
export class Blocks {
  private open: { step: Block; into: Step[] }[] = [];
  private into: Step[];
  private readonly program: Program;
  /** Told of each line that holds a step or closes a block. */
  private readonly reached: (line: number) => void;

  constructor(program: Program, reached: (line: number) => void) {
    this.program = program;
    this.into = program.steps;
    this.reached = reached;
  }

  /** Steps go into another list from here on; every block is closed. */
  begin(into: Step[]): void {
    this.into = into;
  }

  get some(): boolean {
    return this.open.length > 0;
  }

  /** Whether a repeat is open. */
  get repeats(): boolean {
    return this.open.some(({ step }) => step.kind === 'repeat');
  }

  push(step: Step): void {
    this.into.push(step);
    this.program.stepCount++;
    this.reached(step.at.line);
  }

  enter(step: Block): void {
    this.push(step);
    this.open.push({ step, into: this.into });
    if (this.open.length > DEEPEST_BLOCK) {
      throw new LineFault(
        fault(step.at, 'depth', `Blocks lie more than ${DEEPEST_BLOCK} deep.`, 'Make it flatter.'),
      );
    }
    this.into = step.kind === 'repeat' ? step.body : step.arms[0]!.body;
  }

  /** A block opener that went astray still opens its block, so that its `end` is not reported too. */
  keep({ opens }: Line, at: Place): void {
    if (opens === 'repeat') this.enter(endless(at));
    if (opens === 'if')
      this.enter({ kind: 'if', arms: [{ line: at.line, test: null, body: [] }], endLine: 0, at });
  }

  /** Another way of the nearest decision; its test is read by whoever asked for it. */
  otherArm(node: SyntaxNode, reader: LineReader): Arm {
    const block = this.open.at(-1);
    if (block?.step.kind !== 'if') {
      reader.fail(node, 'else', 'This “else” has no “if” above it.', 'Add the “if”, or remove this line.');
    }
    const { arms } = block.step;
    if (arms.at(-1)!.test === null && arms.length > 1) {
      reader.fail(
        node,
        'else',
        'This comes after an “else” that takes all the rest.',
        'Put it above the “else”.',
      );
    }
    const arm: Arm = { line: reader.line, test: null, body: [] };
    arms.push(arm);
    this.into = arm.body;
    this.reached(reader.line);
    return arm;
  }

  leave(node: SyntaxNode, reader: LineReader): void {
    const block = this.open.pop();
    if (!block) {
      reader.fail(node, 'end', 'This “end” closes nothing.', 'Remove it, or add the “repeat” or “if” above.');
    }
    block.step.endLine = reader.line;
    this.into = block.into;
    this.reached(reader.line);
  }

  /** At the end of a part: what is still open was never closed. */
  close(): void {
    for (const { step } of this.open) this.program.findings.push(noEnd(step.at, step.kind));
    this.open = [];
  }
}

/** A block without its `end`. */
export const noEnd = (at: Place, word: string) =>
  fault(at, 'missing end', `This “${word}” has no “end”.`, 'Add a line “end” where it should close.');

export const endless = (at: Place): Extract<Step, { kind: 'repeat' }> => ({
  kind: 'repeat',
  how: 'forever',
  amount: null,
  counter: null,
  body: [],
  endLine: 0,
  at,
});
