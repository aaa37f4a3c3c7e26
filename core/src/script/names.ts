import { units, type QuantityKind, type Unit } from '../quantity/index.ts';
import type { BuiltIn, Expr, Program, ValueDeclaration } from './ast.ts';
import { fault, type Finding, type Place } from './findings.ts';
import { builtIns, sensorQuantity } from './kinds.ts';
import type { Settled } from './settled.ts';
import { nearest } from './shapes.ts';
import { wordInstead } from './slips.ts';

/** A fault met while reading a line: thrown inside the reader, caught once a line. */
export class LineFault extends Error {
  readonly finding: Finding;
  constructor(finding: Finding) {
    super(finding.says);
    this.finding = finding;
  }
}

/** Names known so far. `task` is the own step whose body is being read; its parameters are known only there. */
export interface Scope extends Pick<Program, 'sensors' | 'values' | 'lists' | 'tasks'> {
  task: number | null;
  settled: Settled;
  /** Values, by index, that were declared as bare numbers and may still take a kind. */
  bending: Set<number>;
}

/** A stretch of a line. */
export interface Span {
  from: number;
  to: number;
}

/** Other words for the units. */
const unitWords: Partial<Record<string, Unit>> = {
  turn: 'turns',
  rotation: 'turns',
  rotations: 'turns',
  inch: 'in',
  inches: 'in',
  centimetre: 'cm',
  centimetres: 'cm',
  centimeter: 'cm',
  centimeters: 'cm',
  millimetre: 'mm',
  millimetres: 'mm',
  millimeter: 'mm',
  millimeters: 'mm',
  degree: 'deg',
  degrees: 'deg',
  '°': 'deg',
  sec: 's',
  secs: 's',
  second: 's',
  seconds: 's',
  msec: 'ms',
  millisecond: 'ms',
  milliseconds: 'ms',
  percent: '%',
  hertz: 'Hz',
};

/** The unit that a word means; undefined for any other word. */
export const unitOfWord = (word: string): Unit | undefined =>
  (Object.keys(units) as Unit[]).find((unit) => same(unit, word)) ?? unitWords[word.toLowerCase()];

/** What a word says to a yes-or-no question; null for any other word. */
export function truthOfWord(word: string): boolean | null {
  const lower = word.toLowerCase();
  if (lower === 'yes' || lower === 'true') return true;
  return lower === 'no' || lower === 'false' ? false : null;
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
    const found = unitOfWord(word);
    if (found) return found;
    return this.fail(node, 'unit', `“${word}” is not a unit.`, `Units are ${known.join(', ')}.`);
  }

  quantityOf(sensor: number): QuantityKind {
    return sensorQuantity[this.scope.sensors[sensor]!.kind];
  }

  sensorIndex(name: string): number {
    return this.scope.sensors.findIndex((sensor) => same(sensor.name, name));
  }

  /** The value of a name: a parameter of the own step first, then the script's own. */
  valueIndex(name: string): number {
    const { values, task } = this.scope;
    const fits = (value: ValueDeclaration, of: number | null) => value.task === of && same(value.name, name);
    const own = task === null ? -1 : values.findIndex((value) => fits(value, task));
    return own >= 0 ? own : values.findIndex((value) => fits(value, null));
  }

  listIndex(name: string): number {
    return this.scope.lists.findIndex((list) => same(list.name, name));
  }

  /** A declared list by name. */
  list(node: Span): number {
    const name = this.name(node);
    const index = this.listIndex(name);
    if (index >= 0) return index;
    if (this.valueIndex(name) >= 0)
      return this.fail(
        node,
        'list wanted',
        `“${name}” is a value, not a list.`,
        `To raise it write: set ${name} to ${name} + 1.`,
      );
    const near = nearest(
      name,
      this.scope.lists.map((list) => list.name),
    );
    return this.fail(
      node,
      'list wanted',
      `“${name}” is not a list.`,
      near ? `Did you mean “${near}”?` : `Declare it at the top: list ${name}.`,
    );
  }

  /** Whether a name stands for anything yet. */
  isKnown(name: string): boolean {
    return (
      this.sensorIndex(name) >= 0 ||
      this.valueIndex(name) >= 0 ||
      this.listIndex(name) >= 0 ||
      Object.keys(builtIns).some((word) => same(word, name))
    );
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
    if (own >= 0 && this.scope.values[own]!.task !== null) return this.held(own, at);
    const sensor = this.sensorIndex(name);
    if (sensor >= 0) return { kind: 'sensor', index: sensor, of: this.quantityOf(sensor), at };
    const value = this.valueIndex(name);
    if (value >= 0) return this.held(value, at);
    const known = Object.keys(builtIns).find((word) => same(word, name)) as BuiltIn | undefined;
    if (known) return { kind: 'builtin', name: known, of: builtIns[known], at };
    const truth = truthOfWord(name);
    if (truth !== null) return { kind: 'truth', value: truth, at };
    if (this.listIndex(name) >= 0) {
      this.fail(
        node,
        'list',
        `“${name}” is a whole list.`,
        `Ask it for one number, for example: average of ${name}, or: item 1 of ${name}.`,
      );
    }
    return this.unknown(node);
  }

  private held(index: number, at: Place): Expr {
    const { of } = this.scope.values[index]!;
    const value: Expr = { kind: 'value', index, of, at };
    return this.scope.bending.has(index) ? { ...value, bends: true } : value;
  }

  /** “nose pressed”, “average readings”, “measure”: names with a word left out. */
  private askedWithout(name: string): string | null {
    const [, first, last] = /^(.+)\s+(\S+)$/.exec(name) ?? [];
    if (first && last && this.sensorIndex(first) >= 0) return `“is” is missing: ${first} is ${last}.`;
    if (first && last && this.listIndex(last) >= 0) return `“of” is missing: ${first} of ${last}.`;
    const task = this.scope.tasks.find((one) => same(one.name, name));
    if (task?.parameters.length === 0) return `An own step is done: set … to do ${task.name}.`;
    return task ? `An own step is done: set … to do ${task.name} by ….` : null;
  }

  unknown(node: Span): never {
    const name = this.name(node);
    const { sensors, values, lists, task } = this.scope;
    const inReach = values.filter((value) => value.task === null || value.task === task);
    const known = [...sensors, ...inReach, ...lists].map((one) => one.name);
    const told = this.askedWithout(name) ?? wordInstead(name);
    if (told) this.fail(node, 'unknown name', `“${name}” has no meaning yet.`, told);
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
