import type { SyntaxNode } from '@lezer/common';
import type { Expr, FunctionName, ListQuestion } from './ast.ts';
import type { Place } from './findings.ts';
import { isBare, kindOf, opKind } from './kinds.ts';
import type { ExprReader } from './exprReader.ts';
import { nearest } from './shapes.ts';

const functions: Record<FunctionName, [number, number]> = {
  min: [2, 9],
  max: [2, 9],
  abs: [1, 1],
  round: [1, 1],
  floor: [1, 1],
  clamp: [3, 3],
  remainder: [2, 2],
};
const examples: Partial<Record<FunctionName, string>> = {
  clamp: 'clamp(x, low, high)',
  remainder: 'remainder(x, 2)',
};

/** Reads `min(a, b)` and its like. */
export function readCall(reader: ExprReader, node: SyntaxNode, at: Place): Expr {
  const callee = node.getChild('Callee')!;
  const word = reader.words(callee).toLowerCase();
  const args = reader.inner(node).slice(1);
  if (word === 'state') return readState(reader, node, args, at);
  const limits = functions[word as FunctionName];
  if (!limits) {
    const known = [...Object.keys(functions), 'state'];
    const near = nearest(word, known);
    return reader.fail(
      callee,
      'unknown function',
      `“${reader.words(callee)}” cannot be worked out.`,
      near
        ? `Did you mean “${near}”?`
        : listQuestions.includes(word as ListQuestion)
          ? `Of a list it is asked like this: ${word} of readings.`
          : `There are ${known.join(', ')}.`,
    );
  }
  const name = word as FunctionName;
  if (args.length < limits[0] || args.length > limits[1]) {
    const wanted = limits[0] === limits[1] ? `${limits[0]}` : `${limits[0]} or more`;
    reader.fail(
      node,
      'arguments',
      `“${word}” takes ${wanted} number${wanted === '1' ? '' : 's'}, not ${args.length}.`,
      `Write${examples[name] ? '' : ', for example:'} ${examples[name] ?? `${word}(${limits[0] === 1 ? 'x' : 'a, b'})`}.`,
    );
  }
  const read = args.map((arg) => reader.expr(arg));
  read.forEach((arg) => reader.wantQuantity(arg));
  const led = read.find((arg) => !isBare(arg)) ?? read[0]!;
  const taken = read.map((arg) => (arg === led ? arg : reader.matched(arg, led)[0]));
  const kinds = new Set(taken.map(kindOf));
  if (kinds.size > 1) {
    const told = [...kinds].map(opKind).join(' and ');
    reader.fail(node, 'kind', `“${word}” cannot mix ${told}.`, 'Use one kind of unit.');
  }
  return { kind: 'call', name, args: taken, at };
}

/** state(left, right, colour or threshold): each sensor is on the line when it reads below, or names the colour. */
function readState(reader: ExprReader, node: SyntaxNode, args: SyntaxNode[], at: Place): Expr {
  const [leftNode, rightNode, whatNode] = args;
  if (!leftNode || !rightNode || !whatNode || args.length > 3) {
    return reader.fail(
      node,
      'arguments',
      '“state” takes two sensors and what to look for.',
      'Write, for example: state(left floor, right floor, threshold).',
    );
  }
  const look = (sensorNode: SyntaxNode): Expr => {
    const index = reader.sensor(sensorNode);
    const at = reader.place(sensorNode);
    if (reader.scope.sensors[index]!.kind === 'colour') {
      return { kind: 'is', sensor: index, asks: { of: 'colour', what: reader.colour(whatNode) }, at };
    }
    const sensor: Expr = { kind: 'sensor', index, of: reader.quantityOf(index), at };
    const [left, right] = reader.matched(sensor, reader.expr(whatNode));
    return reader.compared({ kind: 'compare', op: '<', left, right, at }, node);
  };
  return { kind: 'state', left: look(leftNode), right: look(rightNode), at };
}

const listQuestions: readonly ListQuestion[] = ['smallest', 'largest', 'average', 'sum', 'count', 'last'];
const listWords: Record<string, ListQuestion> = {
  ...Object.fromEntries(listQuestions.map((word) => [word, word])),
  mean: 'average',
  total: 'sum',
  length: 'count',
  size: 'count',
  number: 'count',
};

/** Reads `average of readings` and its like. */
export function readOfList(reader: ExprReader, node: SyntaxNode, at: Place): Expr {
  const whole = node.getChild('Whole')!;
  const word = reader.words(whole).toLowerCase();
  const asks = listWords[word];
  if (!asks) {
    const near = nearest(word, listQuestions);
    return reader.fail(
      whole,
      'unknown function',
      `A list has no “${reader.words(whole)}”.`,
      near ? `Did you mean “${near}”?` : `It has ${listQuestions.join(', ')} and item 1, item 2 ….`,
    );
  }
  const list = reader.list(node.getChild('Name')!);
  return { kind: 'list', list, asks, of: asks === 'count' ? 'number' : reader.scope.lists[list]!.of, at };
}
