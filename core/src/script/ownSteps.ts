import type { SyntaxNode } from '@lezer/common';
import type { Program, Step } from './ast.ts';
import { fault } from './findings.ts';
import { isBare, kindOf } from './kinds.ts';
import type { LineReader } from './lower.ts';
import { same } from './names.ts';
import { nearest } from './shapes.ts';
import { bodiesOf } from './walk.ts';

/** Reads the head of an own step: its name and what it is given. */
export function readTaskHead(program: Program, node: SyntaxNode, index: number, reader: LineReader): void {
  const nameNode = node.getChild('TaskName')!;
  const name = reader.name(nameNode);
  const task = program.tasks[index]!;
  const before = program.tasks.find((known) => same(known.name, name));
  Object.assign(task, { name, at: reader.place(node) });
  for (const parameter of node.getChildren('Name')) {
    const own = { name: reader.name(parameter), at: reader.place(parameter) };
    const twice = task.parameters.some((p) => same(program.values[p]!.name, own.name));
    if (twice)
      reader.fail(parameter, 'name taken', `“${own.name}” stands there twice.`, 'Choose another name.');
    task.parameters.push(program.values.length);
    program.values.push({ ...own, of: 'number', role: 'given', initial: null, task: index });
  }
  if (before) {
    reader.fail(
      nameNode,
      'name taken',
      `“${name}” is an own step on line ${before.at.line} already.`,
      'Choose another name.',
    );
  }
}

/** Reads calls of own steps. The first call of each says what kind its parameters have. */
export class Calls {
  /** Own steps in the order of their first call. */
  readonly called: number[] = [];
  private readonly program: Program;

  constructor(program: Program) {
    this.program = program;
  }

  /** Reads `do NAME by …`, also as what a value is set to. */
  read(node: SyntaxNode, reader: LineReader, into: number | null): Extract<Step, { kind: 'do' }> {
    const index = this.task(node.getChild('TaskName')!, reader);
    const { parameters, name } = this.program.tasks[index]!;
    const given = reader.inner(node).filter((child) => child.name !== 'TaskName');
    if (given.length !== parameters.length) {
      const wanted = parameters.map((p) => this.program.values[p]!.name).join(', ');
      return reader.fail(
        node,
        'arguments',
        `“${name}” takes ${parameters.length === 0 ? 'no number' : `${wanted}`}, but ${given.length} ${given.length === 1 ? 'is' : 'are'} given.`,
        parameters.length === 0
          ? `Write: do ${name}.`
          : `Write: do ${name} by ${parameters.map(() => '…').join(', ')}.`,
      );
    }
    const first = !this.called.includes(index);
    if (first) this.called.push(index);
    const args = given.map((child, i) => this.argument(child, parameters[i]!, first, reader));
    return { kind: 'do', task: index, args, into, at: reader.place(node) };
  }

  private task(nameNode: SyntaxNode, reader: LineReader): number {
    const name = reader.name(nameNode);
    const { tasks } = this.program;
    const index = tasks.findIndex((task) => same(task.name, name));
    if (index >= 0) return index;
    const near = nearest(
      name,
      tasks.map((task) => task.name),
    );
    return reader.fail(
      nameNode,
      'unknown task',
      `There is no own step “${name}”.`,
      near ? `Did you mean “${near}”?` : `Write it at the end: task ${name}, its steps, end.`,
    );
  }

  private argument(node: SyntaxNode, index: number, first: boolean, reader: LineReader) {
    const parameter = this.program.values[index]!;
    const { settled, bending } = reader.scope;
    const taken = settled.value(parameter.task, parameter.name);
    if (first && taken) parameter.of = taken.of;
    else if (first) {
      const arg = reader.settled(reader.expr(node));
      const of = kindOf(arg);
      if (of === 'text')
        return reader.fail(node, 'kind', 'An own step is given no texts.', 'Write a number with its unit.');
      parameter.of = of;
      if (of === 'number' && isBare(arg)) bending.add(index);
      return arg;
    }
    if (parameter.of !== 'truth') {
      const plain = reader.expr(node);
      // Called with a bare number first and with a quantity now: the quantity says the kind.
      const of = kindOf(plain);
      if (bending.has(index) && of !== 'number' && of !== 'text' && of !== 'truth') {
        reader.bend(index, of, reader.bareUnit(of, plain), reader.line);
        return plain;
      }
      return reader.settled(reader.quantity(node, [parameter.of], `“${parameter.name}”`));
    }
    const arg = reader.expr(node);
    if (kindOf(arg) !== 'truth')
      reader.fail(node, 'kind', `“${parameter.name}” is a yes-or-no.`, 'Give it yes, no, or a question.');
    return arg;
  }
}

/** An own step that does itself would never come back. */
export function refuseCircles({ tasks, findings }: Program): void {
  const calls = tasks.map((task) => callsIn(task.body));
  const reaches = (from: number, to: number, seen = new Set<number>()): boolean =>
    calls[from]!.some(({ task }) => {
      if (task === to) return true;
      if (seen.has(task)) return false;
      seen.add(task);
      return reaches(task, to, seen);
    });
  calls.forEach((list, from) => {
    for (const { task, at } of list) {
      if (task !== from && !reaches(task, from)) continue;
      const says = `“${tasks[from]!.name}” would do itself again and never come back.`;
      findings.push(fault(at, 'circle', says, 'Use a repeat instead.'));
    }
  });
}

function callsIn(steps: readonly Step[]): Extract<Step, { kind: 'do' }>[] {
  return steps.flatMap((step) => (step.kind === 'do' ? [step] : bodiesOf(step).flatMap(callsIn)));
}
