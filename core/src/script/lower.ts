import type { NodeType, SyntaxNode } from '@lezer/common';
import { toBase, units, type QuantityKind } from '../quantity/index.ts';
import type { Expr } from './ast.ts';
import { readCall, readOfList } from './calls.ts';
import type { Place } from './findings.ts';
import { colourWords, isBare, kindOf, opKind, sensorItems } from './kinds.ts';
import { lengthUnitOf } from './lengthUnit.ts';
import { ExprReader } from './exprReader.ts';
import { same, type Span } from './names.ts';
import { readComparison, readIs, readLogic } from './questions.ts';
import { nearest } from './shapes.ts';
import { hasPart, partThat, sensorOfPart } from './walk.ts';

const punctuation = new Set([
  'Keyword',
  'Minus',
  'Plus',
  'Star',
  'Slash',
  'Compare',
  'Equals',
  'Than',
  'Comment',
  'Percent',
  'Degree',
]);
/** Whether a node is a part of a step's meaning: not a key word, a sign or a space. By type, once for each. */
const partTypes: (boolean | undefined)[] = [];
const isPart = ({ id, name }: NodeType): boolean =>
  (partTypes[id] ??= /^[A-Z]/.test(name) && !punctuation.has(name));

const isChange = ({ kind }: Expr) => kind === 'change';
const isLost = (part: Expr) => part.kind === 'threshold' && part.sensor < 0;
const isValue = ({ kind }: Expr) => kind === 'value';
/** What is worked out while the program runs: a reading, a value, something of a list. */
const isWorkedOut = (part: Expr) =>
  part.kind === 'value' || part.kind === 'list' || part.kind === 'listItem' || sensorOfPart(part) !== null;

/** How deep brackets and operators may lie in each other. */
const DEEP = 60;

/** Turns the expressions of one line into checked ones: names known, kinds of quantity matching. */
export class LineReader extends ExprReader {
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
      case 'OfList':
        return readOfList(this, node, at);
      case 'ThresholdRef': {
        const name = node.getChild('Name');
        if (!name) return { kind: 'threshold', sensor: -1, of: 'number', at };
        const index = this.sensor(name);
        return { kind: 'threshold', sensor: index, of: this.quantityOf(index), at };
      }
      case 'Heard':
        return { kind: 'heard', text: this.words(node.getChild('Text')!).slice(1, -1), at };
      case 'Random':
        return this.random(node, at);
      case 'Call':
        return readCall(this, node, at);
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
        return readComparison(this, node, at);
      case 'Is':
        return readIs(this, node, at);
      case 'Change':
        return this.change(node, at);
      case 'Not':
        return { kind: 'not', operand: this.truth(this.inner(node)[0]!), at };
      case 'And':
      case 'Or':
        return readLogic(this, node, at);
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
            : kindOf(expr) === 'time'
              ? `Write: wait ${this.words(node)}.`
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
    const change = partThat(expr, isChange);
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
    // A value that is a plain number stays one where a plain number will do.
    const stays = () => wanted.includes('number') && hasPart(expr, isValue);
    if (kind === 'number' && isBare(expr) && !stays())
      return this.adopted(expr, wanted[0]!, this.bareUnit(wanted[0]!, expr));
    if (!wanted.includes(kind as QuantityKind)) {
      const says = `${role} is ${this.listed(wanted)}, but “${this.words(node)}” is ${opKind(kind)}.`;
      this.fail(
        node,
        'kind',
        says,
        kind === 'truth' || kind === 'text' ? 'Use a number.' : 'Change the unit.',
      );
    }
    return expr;
  }

  /**
   * A number in a scale of its own, such as a speed in %, a steering or a pitch: beside its own kind also a plain number, and what
   * is worked out from readings: so many cm of a distance, so many degrees of an angle.
   */
  scaled(node: SyntaxNode, wanted: readonly QuantityKind[], role: string): Expr {
    return this.inScale(this.expr(node), wanted) ?? this.quantity(node, wanted, role);
  }

  /** The same for a name of several words. */
  scaledValue(node: Span, wanted: readonly QuantityKind[], role: string): Expr {
    const expr = this.named(node, this.place(node));
    return (
      this.inScale(expr, wanted) ??
      this.failAt(expr.at, 'kind', `${role} is ${this.listed(wanted)}.`, 'Use another value here.')
    );
  }

  private inScale(expr: Expr, wanted: readonly QuantityKind[]): Expr | null {
    if (expr.kind === 'quantity') return null;
    const kind = kindOf(expr);
    if (hasPart(expr, isWorkedOut)) {
      if (kind === 'length') {
        const unit = lengthUnitOf(expr, this.scope.sensors);
        return { kind: 'plain', operand: expr, unit, of: wanted[0]!, at: expr.at };
      }
      if (kind === 'angle' || kind === 'percent' || kind === 'number') return expr;
    }
    return kind === 'number' && !isBare(expr) ? expr : null;
  }

  inner(node: SyntaxNode): SyntaxNode[] {
    const children: SyntaxNode[] = [];
    for (let child = node.firstChild; child; child = child.nextSibling) {
      if (isPart(child.type)) children.push(child);
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
        'Only lists, rgb and beacon sensors give several.',
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
    const nameNode = node.getChild('Name')!;
    const place = () => this.quantity(this.inner(node)[0]!, ['number'], 'An item’s place');
    const own = this.listIndex(this.name(nameNode));
    if (own >= 0)
      return { kind: 'listItem', list: own, position: place(), of: this.scope.lists[own]!.of, at };
    const { sensor, list } = this.items(nameNode);
    const position = place();
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

  private random(node: SyntaxNode, at: Place): Expr {
    const [lowNode, highNode] = this.inner(node);
    const [from, to] = this.matched(this.expr(lowNode!), this.expr(highNode!));
    [from, to].forEach((end) => this.wantQuantity(end));
    if (kindOf(from) !== kindOf(to)) this.clash(node, from, to, 'the ends of one range');
    return { kind: 'random', from, to, at };
  }

  colour(node: SyntaxNode): string {
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

  private change(node: SyntaxNode, at: Place): Expr {
    const [operandNode, byNode] = this.inner(node);
    const operand = this.expr(operandNode!);
    this.wantQuantity(operand);
    const how = this.words(node.getChild('Keyword')!).toLowerCase() as 'drops' | 'rises' | 'changes';
    const [by, other] = this.matched(this.expr(byNode!), operand);
    if (kindOf(by) !== kindOf(other)) this.clash(node, other, by, 'held against each other');
    return { kind: 'change', how, operand: other, by, at };
  }

  /** An expression in which every `threshold` is some sensor's. */
  settled(expr: Expr): Expr {
    const lost = partThat(expr, isLost);
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
      if (a !== b) this.clash(node, left, right, op === '+' ? 'added' : 'taken from each other');
    } else if (op === '*' && a !== 'number' && b !== 'number') {
      const says = `${opKind(a)} times ${opKind(b)} has no meaning here.`;
      this.fail(node, 'kind', says, 'One side must be a plain number.');
    } else if (op === '/' && b !== 'number' && a !== b) {
      this.fail(node, 'kind', `${opKind(a)} cannot be divided by ${opKind(b)}.`, 'Divide by a plain number.');
    }
    return { kind: 'arithmetic', op, left, right, at };
  }

  /** A comparison whose sides go together. */
  compared(expr: Extract<Expr, { kind: 'compare' }>, node: Span): Expr {
    const { left, right, op } = expr;
    if (kindOf(left) === 'truth' && kindOf(right) === 'truth' && (op === '=' || op === '<>')) return expr;
    const [a, b] = [this.wantQuantity(left), this.wantQuantity(right)];
    this.settled(expr);
    const named = [left, right].find(
      (side) => side.kind === 'sensor' && this.scope.sensors[side.index]!.kind === 'colour',
    );
    if (named) {
      this.failAt(named.at, 'state', 'A colour is told by its name.', 'Write, for example: seen is green.');
    }
    if (a !== b) this.clash(node, left, right, 'compared');
    return expr;
  }
}
