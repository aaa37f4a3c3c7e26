import type { SyntaxNode } from '@lezer/common';
import { kindWords, toBase, units, type QuantityKind } from '../quantity/index.ts';
import type { CompareOp, Expr, FunctionName, StateQuestion } from './ast.ts';
import type { Place } from './findings.ts';
import { adopt, colourWords, isBare, kindOf, opKind, sensorItems } from './kinds.ts';
import { NameReader, same, type Span } from './names.ts';
import { nearest } from './shapes.ts';
import { lengthUnitOf } from './lengthUnit.ts';
import { parts, sensorsIn } from './walk.ts';

const punctuation = new Set([
  'Keyword',
  'Minus',
  'Plus',
  'Star',
  'Slash',
  'Compare',
  'Equals',
  'Comment',
  'Percent',
]);
const functions: Record<FunctionName, [number, number]> = {
  min: [2, 9],
  max: [2, 9],
  abs: [1, 1],
  round: [1, 1],
  floor: [1, 1],
  clamp: [3, 3],
};
/** How deep brackets and operators may lie in each other. */
const DEEP = 60;

/** Turns the expressions of one line into checked ones: names known, kinds of quantity matching. */
export class LineReader extends NameReader {
  private depth = 0;

  /** Reads an expression. */
  expr(node: SyntaxNode): Expr {
    if (++this.depth > DEEP)
      this.fail(node, 'depth', 'This is nested too deep.', 'Work it out in two steps.');
    const read = this.read(node);
    this.depth--;
    return read;
  }

  private read(node: SyntaxNode): Expr {
    const at = this.place(node);
    switch (node.name) {
      case 'Quantity': {
        const number = Number(this.words(node.getChild('Number')!));
        const unitNode = node.getChild('Unit');
        if (!unitNode) return { kind: 'quantity', value: number, of: 'number', at };
        const unit = this.unit(unitNode);
        return { kind: 'quantity', value: toBase(number, unit), of: units[unit].kind, at };
      }
      case 'Text':
        return { kind: 'text', value: this.words(node).slice(1, -1), at };
      case 'NameRef':
        return this.named(node, at);
      case 'RawRef':
        return { kind: 'raw', sensor: this.sensor(node.getChild('NameRef')!), at };
      case 'FieldRef':
        return this.field(node, at);
      case 'ItemRef':
        return this.item(node, at);
      case 'ThresholdRef': {
        const name = node.getChild('Name');
        if (!name) return { kind: 'threshold', sensor: -1, of: 'number', at };
        const index = this.sensor(name);
        return { kind: 'threshold', sensor: index, of: this.quantityOf(index), at };
      }
      case 'Call':
        return this.call(node, at);
      case 'Paren':
        return this.expr(this.inner(node)[0]!);
      case 'Negative': {
        const operand = this.expr(this.inner(node)[0]!);
        this.wantQuantity(operand);
        return { kind: 'negative', operand, at };
      }
      case 'Sum':
      case 'Product':
        return this.arithmetic(node, at);
      case 'Comparison':
        return this.comparison(node, at);
      case 'Is':
        return this.is(node, at);
      case 'Change':
        return this.change(node, at);
      case 'Not':
        return { kind: 'not', operand: this.truth(this.inner(node)[0]!), at };
      case 'And':
      case 'Or': {
        const [left, right] = this.inner(node);
        const op = node.name === 'And' ? 'and' : 'or';
        return { kind: 'logic', op, left: this.truth(left!), right: this.truth(right!), at };
      }
      default:
        return this.fail(node, 'not understood', `I do not understand “${this.words(node)}”.`, 'Rewrite it.');
    }
  }

  /** An expression that is true or false. */
  truth(node: SyntaxNode): Expr {
    const expr = this.expr(node);
    if (kindOf(expr) !== 'truth') {
      const [sensor] = expr.kind === 'sensor' ? [this.scope.sensors[expr.index]!] : [];
      this.fail(
        node,
        'test wanted',
        `“${this.words(node)}” is ${opKind(kindOf(expr))}, not a question.`,
        sensor?.kind === 'touch'
          ? `Ask, for example: ${sensor.name} is pressed.`
          : sensor?.kind === 'colour'
            ? `Ask, for example: ${sensor.name} is green.`
            : 'Compare it with something, for example floor < 41 %.',
      );
    }
    return expr;
  }

  /** A test that looks only once: nothing in it may need time to change. */
  look(node: SyntaxNode): Expr {
    return this.now(this.truth(node));
  }

  /** An expression that is worked out at once. */
  now(expr: Expr): Expr {
    const change = parts(expr).find((part) => part.kind === 'change');
    if (change) {
      this.failAt(
        change.at,
        'change',
        'This looks only once, and a change takes time.',
        'Write it in a “wait until” or a “repeat until”.',
      );
    }
    return expr;
  }

  /** A quantity of one of the wanted kinds; a bare number counts as the first of them. */
  quantity(node: SyntaxNode, wanted: readonly QuantityKind[], role: string): Expr {
    const expr = this.expr(node);
    const kind = kindOf(expr);
    if (kind === 'number' && isBare(expr)) return adopt(expr, wanted[0]!, this.bareUnit(wanted[0]!, expr));
    if (!wanted.includes(kind as QuantityKind)) {
      const list = wanted.map((k) => kindWords[k]).join(' or ');
      const says = `${role} is ${list}, but “${this.words(node)}” is ${opKind(kind)}.`;
      this.fail(node, 'kind', says, 'Change the unit.');
    }
    return expr;
  }

  inner(node: SyntaxNode): SyntaxNode[] {
    const children: SyntaxNode[] = [];
    for (let child = node.firstChild; child; child = child.nextSibling) {
      if (/^[A-Z]/.test(child.name) && !punctuation.has(child.name)) children.push(child);
    }
    return children;
  }

  private items(node: SyntaxNode): { sensor: number; list: readonly (readonly [string, QuantityKind])[] } {
    const sensor = this.sensor(node);
    const list = sensorItems[this.scope.sensors[sensor]!.kind];
    if (!list) {
      this.fail(
        node,
        'one number',
        `“${this.name(node)}” gives one number, not several.`,
        'Only rgb and beacon sensors give several.',
      );
    }
    return { sensor, list };
  }

  private field(node: SyntaxNode, at: Place): Expr {
    const { sensor, list } = this.items(node.getChild('NameRef')!);
    const fieldNode = node.getChild('Field')!;
    const index = list.findIndex(([word]) => same(word, this.words(fieldNode)));
    if (index < 0) {
      const words = list.map(([word]) => `.${word}`).join(', ');
      this.fail(fieldNode, 'item', `It has no “.${this.words(fieldNode)}”.`, `It has ${words}.`);
    }
    const position: Expr = { kind: 'quantity', value: index + 1, of: 'number', at };
    return { kind: 'item', sensor, position, of: list[index]![1], at };
  }

  private item(node: SyntaxNode, at: Place): Expr {
    const { sensor, list } = this.items(node.getChild('Name')!);
    const position = this.quantity(this.inner(node)[0]!, ['number'], 'An item’s place');
    if (position.kind !== 'quantity') return { kind: 'item', sensor, position, of: list[0]![1], at };
    const found = list[position.value - 1];
    if (!found) {
      this.failAt(
        position.at,
        'item',
        `There is no item ${position.value}: it gives ${list.length}.`,
        `They are ${list.map(([word], i) => `${i + 1} ${word}`).join(', ')}.`,
      );
    }
    return { kind: 'item', sensor, position, of: found[1], at };
  }

  private call(node: SyntaxNode, at: Place): Expr {
    const callee = node.getChild('Callee')!;
    const word = this.words(callee).toLowerCase();
    const args = this.inner(node).slice(1);
    if (word === 'state') return this.state(node, args, at);
    const limits = functions[word as FunctionName];
    if (!limits) {
      const known = [...Object.keys(functions), 'state'];
      const near = nearest(word, known);
      this.fail(
        callee,
        'unknown function',
        `“${this.words(callee)}” cannot be worked out.`,
        near ? `Did you mean “${near}”?` : `There are ${known.join(', ')}.`,
      );
    }
    if (args.length < limits[0] || args.length > limits[1]) {
      const wanted = limits[0] === limits[1] ? `${limits[0]}` : `${limits[0]} or more`;
      this.fail(
        node,
        'arguments',
        `“${word}” takes ${wanted} number${wanted === '1' ? '' : 's'}, not ${args.length}.`,
        word === 'clamp'
          ? 'Write clamp(x, low, high).'
          : `Write, for example: ${word}(${limits[0] === 1 ? 'x' : 'a, b'}).`,
      );
    }
    const read = args.map((arg) => this.expr(arg));
    read.forEach((arg) => this.wantQuantity(arg));
    const led = read.find((arg) => !isBare(arg)) ?? read[0]!;
    const taken = read.map((arg) => (arg === led ? arg : this.matched(arg, led)[0]));
    const kinds = new Set(taken.map(kindOf));
    if (kinds.size > 1) {
      const told = [...kinds].map(opKind).join(' and ');
      this.fail(node, 'kind', `“${word}” cannot mix ${told}.`, 'Use one kind of unit.');
    }
    return { kind: 'call', name: word as FunctionName, args: taken, at };
  }

  /** state(left, right, colour or threshold): each sensor is on the line when it reads below, or names the colour. */
  private state(node: SyntaxNode, args: SyntaxNode[], at: Place): Expr {
    const [leftNode, rightNode, whatNode] = args;
    if (!leftNode || !rightNode || !whatNode || args.length > 3) {
      this.fail(
        node,
        'arguments',
        '“state” takes two sensors and what to look for.',
        'Write, for example: state(left floor, right floor, threshold).',
      );
    }
    const look = (sensorNode: SyntaxNode): Expr => {
      const index = this.sensor(sensorNode);
      const at = this.place(sensorNode);
      if (this.scope.sensors[index]!.kind === 'colour') {
        return { kind: 'is', sensor: index, asks: { of: 'colour', what: this.colour(whatNode) }, at };
      }
      const sensor: Expr = { kind: 'sensor', index, of: this.quantityOf(index), at };
      const [left, right] = this.matched(sensor, this.expr(whatNode));
      return this.compared({ kind: 'compare', op: '<', left, right, at }, node);
    };
    return { kind: 'state', left: look(leftNode), right: look(rightNode), at };
  }

  private colour(node: SyntaxNode): string {
    const word = this.words(node).toLowerCase();
    if (!colourWords.includes(word)) {
      const near = nearest(word, colourWords);
      this.fail(
        node,
        'colour',
        `“${this.words(node)}” is not a colour.`,
        near ? `Did you mean “${near}”?` : `Colours are ${colourWords.join(', ')}.`,
      );
    }
    return word;
  }

  private is(node: SyntaxNode, at: Place): Expr {
    const [subject] = this.inner(node);
    const stateNode = node.getChild('StateWord')!;
    if (subject!.name !== 'NameRef') {
      this.fail(subject!, 'sensor wanted', '“is” asks a sensor.', 'Compare numbers with <, > or =.');
    }
    const index = this.sensor(subject!);
    const asks = this.question(index, stateNode);
    const question: Expr = { kind: 'is', sensor: index, asks, at };
    return node.getChildren('Keyword').length > 1 ? { kind: 'not', operand: question, at } : question;
  }

  private question(index: number, node: SyntaxNode): StateQuestion {
    const { kind, name } = this.scope.sensors[index]!;
    const word = this.words(node).toLowerCase();
    if (kind === 'touch') {
      if (word === 'pressed' || word === 'released' || word === 'bumped') return { of: 'touch', what: word };
      return this.fail(
        node,
        'state',
        `A touch sensor is never “${this.words(node)}”.`,
        'It is pressed, released or bumped.',
      );
    }
    if (word === 'nothing') return { of: 'nothing' };
    if (kind === 'colour') return { of: 'colour', what: this.colour(node) };
    return this.fail(
      node,
      'state',
      `“${name}” gives numbers and cannot be “${this.words(node)}”.`,
      `Compare it with a number, or ask: ${name} is nothing.`,
    );
  }

  private change(node: SyntaxNode, at: Place): Expr {
    const [operandNode, byNode] = this.inner(node);
    const operand = this.expr(operandNode!);
    this.wantQuantity(operand);
    const how = this.words(node.getChild('Keyword')!).toLowerCase() as 'drops' | 'rises' | 'changes';
    const [by, other] = this.matched(this.expr(byNode!), operand);
    if (kindOf(by) !== kindOf(other)) {
      this.fail(
        byNode!,
        'kind',
        `“${this.words(operandNode!)}” is ${opKind(kindOf(other))}, but “${this.words(byNode!)}” is ${opKind(kindOf(by))}.`,
        'Give both the same kind of unit.',
      );
    }
    return { kind: 'change', how, operand: other, by, at };
  }

  /** An expression in which every `threshold` is some sensor's. */
  settled(expr: Expr): Expr {
    const lost = parts(expr).find((part) => part.kind === 'threshold' && part.sensor < 0);
    if (lost) {
      this.failAt(
        lost.at,
        'threshold',
        'The word “threshold” needs a sensor on the other side.',
        'Write, for example: floor < threshold, or: threshold of floor.',
      );
    }
    return expr;
  }

  private wantQuantity(expr: Expr): QuantityKind {
    const kind = kindOf(expr);
    if (kind === 'text' || kind === 'truth') {
      this.failAt(expr.at, 'kind', `Here a number is wanted, not ${opKind(kind)}.`, 'Use a number.');
    }
    return kind;
  }

  private arithmetic(node: SyntaxNode, at: Place): Expr {
    const [leftNode, rightNode] = this.inner(node);
    let [left, right] = [this.expr(leftNode!), this.expr(rightNode!)];
    const sign = this.words(
      node.getChild('Plus') ?? node.getChild('Minus') ?? node.getChild('Star') ?? node.getChild('Slash')!,
    );
    const op = ({ '+': '+', '-': '-', '−': '-', '*': '*', '×': '*', '/': '/', '÷': '/' } as const)[sign]!;
    let [a, b] = [this.wantQuantity(left), this.wantQuantity(right)];
    if (op === '+' || op === '-') {
      [left, right] = this.matched(left, right);
      [a, b] = [kindOf(left) as QuantityKind, kindOf(right) as QuantityKind];
      if (a !== b) {
        const says = `${opKind(a)} and ${opKind(b)} cannot be added or taken away.`;
        this.fail(node, 'kind', says, 'Use one kind of unit.');
      }
    } else if (op === '*' && a !== 'number' && b !== 'number') {
      const says = `${opKind(a)} times ${opKind(b)} has no meaning here.`;
      this.fail(node, 'kind', says, 'One side must be a plain number.');
    } else if (op === '/' && b !== 'number' && a !== b) {
      this.fail(node, 'kind', `${opKind(a)} cannot be divided by ${opKind(b)}.`, 'Divide by a plain number.');
    }
    return { kind: 'arithmetic', op, left, right, at };
  }

  private comparison(node: SyntaxNode, at: Place): Expr {
    const [leftNode, rightNode] = this.inner(node);
    const [left, right] = this.matched(this.expr(leftNode!), this.expr(rightNode!));
    const op = this.words(node.getChild('Compare') ?? node.getChild('Equals')!) as CompareOp;
    return this.compared({ kind: 'compare', op, left, right, at }, node);
  }

  private compared(expr: Extract<Expr, { kind: 'compare' }>, node: Span): Expr {
    const { left, right } = expr;
    const [a, b] = [this.wantQuantity(left), this.wantQuantity(right)];
    this.settled(expr);
    const named = [left, right].find(
      (side) => side.kind === 'sensor' && this.scope.sensors[side.index]!.kind === 'colour',
    );
    if (named) {
      this.failAt(named.at, 'state', 'A colour is told by its name.', 'Write, for example: seen is green.');
    }
    if (a !== b) {
      const side = (one: Expr) => this.text.slice(one.at.column - 1, one.at.column - 1 + one.at.length);
      this.fail(
        node,
        'kind',
        `“${side(left)}” is ${opKind(a)}, “${side(right)}” is ${opKind(b)}: they cannot be compared.`,
        'Give both sides the same kind of unit.',
      );
    }
    return expr;
  }

  /** How many base units a bare number beside `other` is worth: a length takes its sensor's declared unit. */
  private bareUnit(of: QuantityKind, other: Expr): number {
    return of === 'length' ? units[lengthUnitOf(other, this.scope.sensors)].inBase : 1;
  }

  /** Lets a bare number or a bare `threshold` take its kind from the sensor on the other side. */
  private matched(left: Expr, right: Expr): [Expr, Expr] {
    const take = (side: Expr, other: Expr): Expr => {
      const kind = kindOf(other);
      if (!isBare(side) || isBare(other) || kind === 'text' || kind === 'truth') return side;
      const [sensor, second] = sensorsIn(other);
      // Whose threshold is meant can be told only when one sensor stands on the other side.
      const whose = sensor === undefined || second !== undefined ? -1 : sensor;
      if (kind === 'number' && whose < 0) return side;
      return adopt(side, kind, this.bareUnit(kind, other), whose);
    };
    return [take(left, right), take(right, left)];
  }
}
