import type { SyntaxNode } from '@lezer/common';
import type { Expr, Program, Step } from './ast.ts';
import { heldWord } from './declare.ts';
import { fault, type Place } from './findings.ts';
import { isBare, kindOf } from './kinds.ts';
import type { LineReader } from './lower.ts';

/** Own steps that have given back only bare numbers so far. */
const bareGives = new WeakSet<object>();

/** Checks what an own step gives back, and keeps its kind. */
export function giveBack(
  program: Program,
  step: Extract<Step, { kind: 'give' }>,
  node: SyntaxNode,
  reader: LineReader,
): void {
  const { task: index, settled } = reader.scope;
  const task = program.tasks[index!]!;
  if (!step.value) return;
  const of = kindOf(step.value);
  if (of === 'text') reader.fail(node, 'kind', 'No text can be given back.', 'Show it instead.');
  else if (task.gives === null || (task.gives === 'number' && bareGives.has(task))) {
    task.gives = of;
    // A bare number may yet be of the kind that is given back elsewhere.
    if (of === 'number' && isBare(step.value)) bareGives.add(task);
    else bareGives.delete(task);
    settled.takeGives(task.name, of, reader.line);
  } else if (task.gives !== of && !(of === 'number' && isBare(step.value))) {
    reader.fail(
      node,
      'kind',
      `“${task.name}” gives back ${heldWord(task.gives)} elsewhere, and ${heldWord(of)} here.`,
      'Give back one kind.',
    );
  }
}

/** What is given back; a bare number is of the kind that the own step gives elsewhere. */
export function readGiven(program: Program, node: SyntaxNode, reader: LineReader): Expr {
  const expr = reader.expr(node);
  const { settled, task } = reader.scope;
  const of = settled.gives(program.tasks[task!]!.name);
  if (!of || of === 'truth' || of === 'number' || kindOf(expr) !== 'number' || !isBare(expr)) return expr;
  return reader.adopted(expr, of, reader.bareUnit(of, expr));
}

/** Values that take what own steps give back: the two are of one kind. */
export class Takers {
  private readonly unknown: { task: number; at: Place }[] = [];
  private readonly program: Program;

  constructor(program: Program) {
    this.program = program;
  }

  /** A value takes what an own step gives. */
  take(index: number, taskIndex: number, node: SyntaxNode, reader: LineReader): void {
    const task = this.program.tasks[taskIndex]!;
    const { settled, bending } = reader.scope;
    const declared = this.program.values[index]!;
    const gives = settled.gives(task.name) ?? null;
    // Own steps are read after the main program: only the next reading knows what they give.
    if (gives === null) {
      this.unknown.push({ task: taskIndex, at: reader.place(node) });
      return;
    }
    if (gives === declared.of) return;
    if (bending.has(index) && gives !== 'truth')
      return reader.bend(index, gives, gives === 'length' ? 10 : 1, reader.line);
    reader.fail(
      node,
      'kind',
      `“${task.name}” gives back ${heldWord(gives)}, but “${declared.name}” is ${heldWord(declared.of)}.`,
      gives === 'truth' ? `Begin it with: let ${declared.name} = no.` : 'Use another value for it.',
    );
  }

  /** When all own steps are read: those that were asked for something and give nothing. */
  refuseNothing(): void {
    for (const { task, at } of this.unknown) {
      const { name, gives } = this.program.tasks[task]!;
      if (gives !== null) continue;
      const says = `“${name}” gives nothing back.`;
      const mend = 'Write in it, for example: give back average of readings.';
      this.program.findings.push(fault(at, 'give back', says, mend));
    }
  }
}
