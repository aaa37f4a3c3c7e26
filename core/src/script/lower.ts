import type { SyntaxNode } from '@lezer/common';
import { kindWords, toBase, units, type QuantityKind, type Unit } from '../quantity/index.ts';
import type { SensorKind } from '../sensing/index.ts';
import type { CompareOp, Expr, SensorDeclaration, ValueDeclaration, ValueKind } from './ast.ts';
import { fault, type Finding, type Place } from './findings.ts';
import { nearest } from './shapes.ts';

/** The kind of quantity that each kind of sensor gives. Touch and colour are told by words, not numbers. */
const sensorQuantity: Record<SensorKind, QuantityKind> = {
  touch: 'number',
  light: 'percent',
  ambient: 'percent',
  colour: 'number',
  rgb: 'percent',
  distance: 'length',
  proximity: 'percent',
  beacon: 'angle',
  heading: 'angle',
  spin: 'angle',
  wheel: 'angle',
};

/** Kinds that a script declares. Wheel turns need no declaration: they are always there. */
export const sensorKindWords = (Object.keys(sensorQuantity) as SensorKind[]).filter(
  (kind) => kind !== 'wheel',
);

/** A fault met while reading a line: thrown inside the reader, caught once a line. */
export class LineFault extends Error {
  readonly finding: Finding;
  constructor(finding: Finding) {
    super(finding.says);
    this.finding = finding;
  }
}

/** Names known so far, and what a line's reader needs to turn a syntax tree into expressions. */
export interface Scope {
  sensors: SensorDeclaration[];
  values: ValueDeclaration[];
}

const opKind = (kind: ValueKind): string =>
  kind === 'text' ? 'a text' : kind === 'truth' ? 'a yes-or-no' : kindWords[kind];

/** Turns the expressions of one line into checked ones: names known, kinds of quantity matching. */
export class LineReader {
  readonly text: string;
  readonly line: number;
  readonly scope: Scope;

  constructor(text: string, line: number, scope: Scope) {
    this.text = text;
    this.line = line;
    this.scope = scope;
  }

  place(node: { from: number; to: number }): Place {
    return { line: this.line, column: node.from + 1, length: Math.max(1, node.to - node.from) };
  }

  words(node: { from: number; to: number }): string {
    return this.text.slice(node.from, node.to);
  }

  fail(node: { from: number; to: number }, rule: string, says: string, mend: string): never {
    throw new LineFault(fault(this.place(node), rule, says, mend));
  }

  /** Reads an expression and its kind. `beside` is the kind and sensor that a bare number or `threshold` takes. */
  expr(node: SyntaxNode): Expr {
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
        return this.name(node, at);
      case 'ThresholdRef': {
        const name = node.getChild('Name');
        if (!name) return { kind: 'threshold', sensor: -1, of: 'number', at };
        const index = this.sensorIndex(this.words(name));
        if (index < 0) this.unknown(name);
        return {
          kind: 'threshold',
          sensor: index,
          of: sensorQuantity[this.scope.sensors[index]!.kind],
          at,
        };
      }
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
      case 'Not': {
        const operand = this.truth(this.inner(node)[0]!);
        return { kind: 'not', operand, at };
      }
      case 'And':
      case 'Or': {
        const [left, right] = this.inner(node);
        return {
          kind: 'logic',
          op: node.name === 'And' ? 'and' : 'or',
          left: this.truth(left!),
          right: this.truth(right!),
          at,
        };
      }
      default:
        return this.fail(node, 'not understood', `I do not understand “${this.words(node)}”.`, 'Rewrite it.');
    }
  }

  /** An expression that is true or false. */
  truth(node: SyntaxNode): Expr {
    const expr = this.expr(node);
    if (kindOf(expr) !== 'truth') {
      this.fail(
        node,
        'test wanted',
        `“${this.words(node)}” is ${opKind(kindOf(expr))}, not a question.`,
        'Compare it with something, for example floor < 41 %.',
      );
    }
    return expr;
  }

  /** A quantity of one of the wanted kinds; a bare number counts as the first of them. */
  quantity(node: SyntaxNode, wanted: readonly QuantityKind[], role: string): Expr {
    const expr = this.expr(node);
    const kind = kindOf(expr);
    if (kind === 'number' && isBare(expr)) return adopt(expr, wanted[0]!);
    if (!wanted.includes(kind as QuantityKind)) {
      const list = wanted.map((k) => kindWords[k]).join(' or ');
      this.fail(
        node,
        'kind',
        `${role} is ${list}, but “${this.words(node)}” is ${opKind(kind)}.`,
        'Change the unit.',
      );
    }
    return expr;
  }

  inner(node: SyntaxNode): SyntaxNode[] {
    const children: SyntaxNode[] = [];
    for (let child = node.firstChild; child; child = child.nextSibling) {
      if (
        /^[A-Z]/.test(child.name) &&
        !['Keyword', 'Minus', 'Plus', 'Star', 'Slash', 'Compare', 'Equals', 'Comment'].includes(child.name)
      ) {
        children.push(child);
      }
    }
    return children;
  }

  private unit(node: SyntaxNode): Unit {
    const word = this.words(node);
    const known = Object.keys(units) as Unit[];
    const found =
      known.find((unit) => unit.toLowerCase() === word.toLowerCase()) ??
      (word === 'turn' ? 'turns' : undefined);
    if (found) return found;
    return this.fail(node, 'unit', `“${word}” is not a unit.`, `Units are ${known.join(', ')}.`);
  }

  private sensorIndex(name: string): number {
    return this.scope.sensors.findIndex((sensor) => sensor.name.toLowerCase() === name.toLowerCase());
  }

  private name(node: SyntaxNode, at: Place): Expr {
    const name = this.words(node);
    const sensor = this.sensorIndex(name);
    if (sensor >= 0) {
      return { kind: 'sensor', index: sensor, of: sensorQuantity[this.scope.sensors[sensor]!.kind], at };
    }
    const value = this.scope.values.findIndex((v) => v.name.toLowerCase() === name.toLowerCase());
    if (value >= 0) return { kind: 'value', index: value, of: this.scope.values[value]!.of, at };
    return this.unknown(node);
  }

  unknown(node: SyntaxNode): never {
    const name = this.words(node);
    const known = [...this.scope.sensors, ...this.scope.values].map((known) => known.name);
    const near = nearest(name, known);
    return this.fail(
      node,
      'unknown name',
      `“${name}” has no meaning yet.`,
      near
        ? `Did you mean “${near}”?`
        : `Declare it above, for example: sensor ${name} is light on K3, or: let ${name} = 0.`,
    );
  }

  private wantQuantity(expr: Expr): QuantityKind {
    const kind = kindOf(expr);
    if (kind === 'text' || kind === 'truth') {
      throw new LineFault(
        fault(expr.at, 'kind', `Here a number is wanted, not ${opKind(kind)}.`, 'Use a number.'),
      );
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
      [left, right] = matched(left, right);
      [a, b] = [kindOf(left) as QuantityKind, kindOf(right) as QuantityKind];
      if (a !== b) {
        this.fail(
          node,
          'kind',
          `${opKind(a)} and ${opKind(b)} cannot be added or taken away.`,
          'Use one kind of unit.',
        );
      }
    } else if (op === '*' && a !== 'number' && b !== 'number') {
      this.fail(
        node,
        'kind',
        `${opKind(a)} times ${opKind(b)} has no meaning here.`,
        'One side must be a plain number.',
      );
    } else if (op === '/' && b !== 'number' && a !== b) {
      this.fail(node, 'kind', `${opKind(a)} cannot be divided by ${opKind(b)}.`, 'Divide by a plain number.');
    }
    return { kind: 'arithmetic', op, left, right, at };
  }

  private comparison(node: SyntaxNode, at: Place): Expr {
    const [leftNode, rightNode] = this.inner(node);
    const [left, right] = matched(this.expr(leftNode!), this.expr(rightNode!));
    const op = this.words(node.getChild('Compare') ?? node.getChild('Equals')!) as CompareOp;
    const [a, b] = [this.wantQuantity(left), this.wantQuantity(right)];
    const lost = [left, right].find((side) => side.kind === 'threshold' && side.sensor < 0);
    if (lost) {
      throw new LineFault(
        fault(
          lost.at,
          'threshold',
          'The word “threshold” needs a sensor on the other side.',
          'Write, for example: floor < threshold.',
        ),
      );
    }
    if (a !== b) {
      this.fail(
        node,
        'kind',
        `“${this.words(leftNode!)}” is ${opKind(a)}, “${this.words(rightNode!)}” is ${opKind(b)}: they cannot be compared.`,
        'Give both sides the same kind of unit.',
      );
    }
    return { kind: 'compare', op, left, right, at };
  }
}

/** The kind that an expression is worth. */
export function kindOf(expr: Expr): ValueKind {
  switch (expr.kind) {
    case 'quantity':
    case 'sensor':
    case 'value':
    case 'threshold':
      return expr.of;
    case 'text':
      return 'text';
    case 'negative':
      return kindOf(expr.operand);
    case 'arithmetic': {
      const [a, b] = [kindOf(expr.left), kindOf(expr.right)];
      if (expr.op === '/' && a === b) return 'number';
      return a === 'number' ? b : a;
    }
    default:
      return 'truth';
  }
}

/** A number without a unit, possibly computed: it may take the unit of what stands beside it. */
function isBare(expr: Expr): boolean {
  switch (expr.kind) {
    case 'quantity':
      return expr.of === 'number';
    case 'negative':
      return isBare(expr.operand);
    case 'arithmetic':
      return isBare(expr.left) && isBare(expr.right);
    default:
      return false;
  }
}

function adopt(expr: Expr, of: QuantityKind): Expr {
  if (expr.kind === 'quantity') return { ...expr, of };
  if (expr.kind === 'negative') return { ...expr, operand: adopt(expr.operand, of) };
  if (expr.kind === 'arithmetic' && (expr.op === '+' || expr.op === '-')) {
    return { ...expr, left: adopt(expr.left, of), right: adopt(expr.right, of) };
  }
  if (expr.kind === 'arithmetic') return { ...expr, left: adopt(expr.left, of) };
  return expr;
}

/** Lets a bare number or a bare `threshold` take its kind from the sensor on the other side. */
function matched(left: Expr, right: Expr): [Expr, Expr] {
  const take = (side: Expr, other: Expr): Expr => {
    if (side.kind === 'threshold' && side.sensor < 0 && other.kind === 'sensor') {
      return { ...side, sensor: other.index, of: other.of };
    }
    const kind = kindOf(other);
    return isBare(side) && kind !== 'text' && kind !== 'truth' && kind !== 'number'
      ? adopt(side, kind)
      : side;
  };
  return [take(left, right), take(right, left)];
}
