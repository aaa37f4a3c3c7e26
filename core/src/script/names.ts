import { units, type QuantityKind, type Unit } from '../quantity/index.ts';
import type { BuiltIn, Expr, Program, ValueDeclaration } from './ast.ts';
import { fault, type Finding, type Place } from './findings.ts';
import { builtIns, sensorQuantity } from './kinds.ts';
import { nearest } from './shapes.ts';

/** A fault met while reading a line: thrown inside the reader, caught once a line. */
export class LineFault extends Error {
  readonly finding: Finding;
  constructor(finding: Finding) {
    super(finding.says);
    this.finding = finding;
  }
}

/** Names known so far. `task` is the own step whose body is being read; its parameters are known only there. */
export interface Scope extends Pick<Program, 'sensors' | 'values' | 'tasks'> {
  task: number | null;
}

/** A stretch of a line. */
export interface Span {
  from: number;
  to: number;
}

/** Names do not care for case. */
export const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();

/** Finds what the names of one line stand for, and says so when they stand for nothing. */
export class NameReader {
  readonly text: string;
  readonly line: number;
  readonly scope: Scope;
  constructor(text: string, line: number, scope: Scope) {
    this.text = text;
    this.line = line;
    this.scope = scope;
  }

  place(node: Span): Place {
    return { line: this.line, column: node.from + 1, length: Math.max(1, node.to - node.from) };
  }

  words(node: Span): string {
    return this.text.slice(node.from, node.to);
  }

  /** A name of one or more words, with single spaces. */
  name(node: Span): string {
    return this.words(node).replace(/\s+/g, ' ');
  }

  fail(node: Span, rule: string, says: string, mend: string): never {
    throw new LineFault(fault(this.place(node), rule, says, mend));
  }

  failAt(at: Place, rule: string, says: string, mend: string): never {
    throw new LineFault(fault(at, rule, says, mend));
  }

  unit(node: Span): Unit {
    const word = this.words(node);
    const known = Object.keys(units) as Unit[];
    const found =
      known.find((unit) => same(unit, word)) ??
      (same(word, 'turn') ? 'turns' : same(word, 'inches') ? 'in' : undefined);
    if (found) return found;
    return this.fail(node, 'unit', `“${word}” is not a unit.`, `Units are ${known.join(', ')}.`);
  }

  quantityOf(sensor: number): QuantityKind {
    return sensorQuantity[this.scope.sensors[sensor]!.kind];
  }

  private sensorIndex(name: string): number {
    return this.scope.sensors.findIndex((sensor) => same(sensor.name, name));
  }

  /** The value of a name: a parameter of the own step first, then the script's own. */
  valueIndex(name: string): number {
    const { values, task } = this.scope;
    const fits = (value: ValueDeclaration, of: number | null) => value.task === of && same(value.name, name);
    const own = task === null ? -1 : values.findIndex((value) => fits(value, task));
    return own >= 0 ? own : values.findIndex((value) => fits(value, null));
  }

  /** A declared sensor by name. */
  sensor(node: Span): number {
    const index = this.sensorIndex(this.name(node));
    if (index < 0) {
      if (this.valueIndex(this.name(node)) < 0) this.unknown(node);
      this.fail(
        node,
        'sensor wanted',
        `“${this.name(node)}” is not a sensor.`,
        'Use the name of a sensor here.',
      );
    }
    return index;
  }

  protected named(node: Span, at: Place): Expr {
    const name = this.name(node);
    const own = this.scope.task === null ? -1 : this.valueIndex(name);
    if (own >= 0 && this.scope.values[own]!.task !== null) {
      return { kind: 'value', index: own, of: this.scope.values[own]!.of, at };
    }
    const sensor = this.sensorIndex(name);
    if (sensor >= 0) return { kind: 'sensor', index: sensor, of: this.quantityOf(sensor), at };
    const value = this.valueIndex(name);
    if (value >= 0) return { kind: 'value', index: value, of: this.scope.values[value]!.of, at };
    const known = Object.keys(builtIns).find((word) => same(word, name)) as BuiltIn | undefined;
    if (known) return { kind: 'builtin', name: known, of: builtIns[known], at };
    return this.unknown(node);
  }

  unknown(node: Span): never {
    const name = this.name(node);
    const { sensors, values, task } = this.scope;
    const known = [...sensors, ...values.filter((value) => value.task === null || value.task === task)].map(
      (one) => one.name,
    );
    const near = nearest(name, [...known, ...Object.keys(builtIns)]);
    return this.fail(
      node,
      'unknown name',
      `“${name}” has no meaning yet.`,
      near
        ? `Did you mean “${near}”?`
        : `Declare it above, for example: sensor ${name} is light on K3, or: let ${name} = 0.`,
    );
  }
}
