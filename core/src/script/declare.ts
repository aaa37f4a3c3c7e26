import type { SyntaxNode } from '@lezer/common';
import { kindWords, type QuantityKind } from '../quantity/index.ts';
import type { Expr, HeldKind, Program, Step, ValueDeclaration } from './ast.ts';
import { isBare, kindOf } from './kinds.ts';
import type { LineReader } from './lower.ts';
import { same } from './names.ts';
import { readSensor } from './readStep.ts';
import { shapeOf } from './shapes.ts';
import { parts } from './walk.ts';

/** A name that is still free: not a sensor's, a motor's, a list's or a value's. */
export function claim(program: Program, node: SyntaxNode, reader: LineReader): string {
  const name = reader.name(node);
  const { sensors, motors, values, lists } = program;
  const reach = values.filter(({ task }) => task === reader.scope.task);
  const before = [...sensors, ...motors, ...lists, ...reach].find((known) => same(known.name, name));
  if (before) {
    reader.fail(
      node,
      'name taken',
      `“${name}” is declared on line ${before.at.line} already.`,
      'Choose another name.',
    );
  }
  return name;
}

/** Reads a declaration into a program. A value of an own step gives the step that sets it, each time anew. */
export function declare(program: Program, node: SyntaxNode, reader: LineReader): Step | null {
  const nameNode = node.getChild('Name')!;
  const name = claim(program, nameNode, reader);
  const at = reader.place(node);
  switch (node.name) {
    case 'SensorStep':
      program.sensors.push(readSensor(node, reader));
      return null;
    case 'MotorStep':
      motor(program, node, reader);
      return null;
    case 'ListStep':
      program.lists.push({ name, of: reader.scope.settled.list(name) ?? 'number', at });
      return null;
    default:
      return value(program, node, reader);
  }
}

function motor(program: Program, node: SyntaxNode, reader: LineReader): void {
  const kind = node.getChild('Kind')!;
  if (!same(reader.words(kind), 'turret')) {
    reader.fail(
      kind,
      'motor kind',
      `“${reader.words(kind)}” is not a kind of motor.`,
      'A motor beside the wheels is a turret; the wheels need no declaration.',
    );
  }
  program.motors.push({
    name: reader.name(node.getChild('Name')!),
    socket: reader.words(node.getChild('Socket')!),
    at: reader.place(node),
  });
}

/** A value's first content in the kind that the value has taken since. */
function inTakenKind(typed: Expr, name: string, reader: LineReader): Expr {
  const { settled, task } = reader.scope;
  const taken = settled.value(task, name);
  if (!taken || taken.of === 'truth' || kindOf(typed) !== 'number' || !isBare(typed)) return typed;
  return reader.adopted(typed, taken.of, taken.inBase);
}

function value(program: Program, node: SyntaxNode, reader: LineReader): Step | null {
  const valueNode = reader.inner(node).at(-1)!;
  const name = reader.name(node.getChild('Name')!);
  const { task, bending } = reader.scope;
  const initial = inTakenKind(reader.expr(valueNode), name, reader);
  const of = kindOf(initial);
  if (of === 'text') {
    return reader.fail(
      valueNode,
      'kind',
      'A value holds a number, a quantity, or yes or no.',
      `It reads like: ${shapeOf('let')}.`,
    );
  }
  if (parts(initial).some((part) => part.kind === 'threshold' && part.sensor < 0)) {
    return reader.fail(
      valueNode,
      'threshold',
      'Say whose threshold.',
      'Write, for example: let tide = threshold of floor.',
    );
  }
  reader.now(initial);
  const at = reader.place(node);
  const index = program.values.length;
  const own = task !== null;
  program.values.push({ name, of, role: own ? 'own' : 'let', initial: own ? null : initial, task, at });
  if (of === 'number' && isBare(initial)) bending.add(index);
  return own ? { kind: 'set', index, value: initial, at } : null;
}

/** The value that counts the rounds of a repeat, declared by being named there. */
export function counterOf(program: Program, node: SyntaxNode, reader: LineReader): number {
  const name = reader.name(node);
  const { task } = reader.scope;
  const before = program.values.findIndex(
    (one) => one.task === task && one.of === 'number' && same(one.name, name),
  );
  if (before >= 0) return before;
  claim(program, node, reader);
  const counter: ValueDeclaration = {
    name,
    of: 'number',
    role: 'counter',
    initial: null,
    task,
    at: reader.place(node),
  };
  return program.values.push(counter) - 1;
}

/** An expression that is put into a value, which takes its kind where it has none yet. */
export function into(index: number, node: SyntaxNode, reader: LineReader): Expr {
  const declared = reader.scope.values[index]!;
  const given = reader.expr(node);
  const of = kindOf(given);
  if (of === declared.of) return given;
  takes(index, of, given, node, reader);
  if (of === 'number' && isBare(given)) return reader.quantity(node, [declared.of as QuantityKind], '');
  return given;
}

/** Whether a value can take something of another kind: it does where it was declared as a bare number; else a fault. */
function takes(
  index: number,
  of: ReturnType<typeof kindOf>,
  given: Expr,
  node: SyntaxNode,
  reader: LineReader,
): void {
  const declared = reader.scope.values[index]!;
  const { bending, settled } = reader.scope;
  if (of === 'text') reader.fail(node, 'kind', 'A value cannot hold a text.', 'Use “show” for words.');
  if (of === 'number' && isBare(given) && declared.of !== 'truth') return;
  if (bending.has(index) && of !== 'truth' && of !== 'number') {
    reader.bend(index, of, reader.bareUnit(of, given), reader.line);
    return;
  }
  const taken = settled.value(declared.task, declared.name);
  const since = taken ? taken.line : declared.at.line;
  reader.fail(
    node,
    'kind',
    `“${declared.name}” is ${heldWord(declared.of)} since line ${since}, but “${reader.words(node)}” is ${heldWord(of)}.`,
    declared.of === 'truth'
      ? 'Set it to yes, to no, or to a question such as front < 10 cm.'
      : of === 'truth'
        ? `Begin it with a yes or no: let ${declared.name} = no.`
        : 'Use another value for it, or one kind in both places.',
  );
}

export const heldWord = (kind: HeldKind): string => (kind === 'truth' ? 'a yes-or-no' : kindWords[kind]);
