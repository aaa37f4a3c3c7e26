import { kindWords, units, type QuantityKind } from '../quantity/index.ts';
import type { Expr, HeldKind } from './ast.ts';
import { adopt, isBare, kindOf, opKind } from './kinds.ts';
import { lengthUnitOf } from './lengthUnit.ts';
import { NameReader, type Span } from './names.ts';
import { hasPart, sensorsIn } from './walk.ts';

const baseSigns: Record<QuantityKind, string> = {
  length: 'cm',
  angle: 'deg',
  time: 's',
  percent: '%',
  frequency: 'Hz',
  number: '',
};

/** Lets quantities of one line take each other's kinds, and says which do not go together and what mends it. */
export class Matching extends NameReader {
  /** How many base units a bare number beside `other` is worth: a length takes its sensor's declared unit. */
  bareUnit(of: HeldKind, other: Expr): number {
    return of === 'length' ? units[lengthUnitOf(other, this.scope.sensors)].inBase : 1;
  }

  /** A bare expression in another kind; values in it that may still take one have it from now on. */
  adopted(expr: Expr, of: QuantityKind, inBase: number, sensor = -1): Expr {
    const taken = adopt(expr, of, inBase, sensor);
    if (this.scope.bending.size > 0) {
      hasPart(taken, (part) => {
        if (part.kind === 'value' && part.bends && part.of !== 'number')
          this.bend(part.index, part.of, inBase, part.at.line);
        return false;
      });
    }
    return taken;
  }

  /** A value that was declared as a bare number takes a kind. */
  bend(index: number, of: HeldKind, inBase: number, line: number): void {
    const { values, settled } = this.scope;
    const { task, name } = values[index]!;
    settled.takeValue(task, name, { of, inBase, line });
  }

  /** Lets a bare number or a bare `threshold` take its kind from the sensor on the other side. */
  matched(left: Expr, right: Expr): [Expr, Expr] {
    const take = (side: Expr, other: Expr): Expr => {
      const kind = kindOf(other);
      if (!isBare(side) || isBare(other) || kind === 'text' || kind === 'truth') return side;
      const [sensor, second] = sensorsIn(other);
      // Whose threshold is meant can be told only when one sensor stands on the other side.
      const whose = sensor === undefined || second !== undefined ? -1 : sensor;
      if (kind === 'number' && whose < 0) return side;
      return this.adopted(side, kind, this.bareUnit(kind, other), whose);
    };
    return [take(left, right), take(right, left)];
  }

  /** The text that an expression was written in. */
  typed(expr: Expr): string {
    return this.text.slice(expr.at.column - 1, expr.at.column - 1 + expr.at.length);
  }

  wantQuantity(expr: Expr): QuantityKind {
    const kind = kindOf(expr);
    if (kind === 'text' || kind === 'truth') {
      const twice = expr.kind === 'compare';
      this.failAt(
        expr.at,
        'kind',
        `Here a number is wanted, not ${opKind(kind)}.`,
        twice ? 'Ask twice, for example: front > 10 cm and < 20 cm.' : 'Use a number.',
      );
    }
    return kind;
  }

  /** Two sides that do not go together: both kinds, and what usually mends it. */
  clash(node: Span, left: Expr, right: Expr, verb: string): never {
    const [a, b] = [kindOf(left), kindOf(right)];
    return this.fail(
      node,
      'kind',
      `“${this.typed(left)}” is ${opKind(a)}, “${this.typed(right)}” is ${opKind(b)}: they cannot be ${verb}.`,
      this.cure(left, right),
    );
  }

  private cure(left: Expr, right: Expr): string {
    for (const [side, other] of [
      [right, left],
      [left, right],
    ] as const) {
      const kind = kindOf(other);
      if (side.kind === 'quantity' && kind !== 'text' && kind !== 'truth') {
        const number = /^[\d.]+/.exec(this.typed(side))?.[0] ?? '';
        const sign = kind === 'length' ? lengthUnitOf(other, this.scope.sensors) : baseSigns[kind];
        return `Write ${`${number} ${sign}`.trim()} instead of ${this.typed(side)}, or compare with something else.`;
      }
    }
    const held = [left, right].find((side) => side.kind === 'value');
    if (held?.kind === 'value') {
      const { name, task, at } = this.scope.values[held.index]!;
      const since = this.scope.settled.value(task, name)?.line ?? at.line;
      return `“${name}” holds ${opKind(kindOf(held))} since line ${since}: use another value here, or one kind in both places.`;
    }
    return 'Give both the same kind of unit.';
  }

  /** What a quantity of some kinds is called in a sentence. */
  protected listed(wanted: readonly QuantityKind[]): string {
    return wanted.map((kind) => kindWords[kind]).join(' or ');
  }
}
