import { units, type QuantityKind, type Unit } from '../quantity/index.ts';
import { bySocket } from '../sensing/index.ts';
import {
  expressionsOf,
  operandsOf,
  parseScript,
  unitOfWord,
  walkProgram,
  type Expr,
  type Place,
  type Program,
  type Step,
} from '../script/index.ts';

/** What a number of a script does: that is what advice about it goes by. */
export type KnobRole =
  'gain' | 'speed' | 'wheel' | 'threshold' | 'leave' | 'wait' | 'way' | 'turn' | 'number';

/** A number of a script that can be tuned; one knob may stand in several places that belong together. */
export interface Knob {
  /** What it is called in this script: “gain”, “speed 2”, “outer wheel”. The same in the next version while the steps stay. */
  name: string;
  role: KnobRole;
  /** In `unit`, as it is written. */
  value: number;
  unit: string;
  /** Ends and step of its slider, in `unit`. */
  low: number;
  high: number;
  step: number;
  places: Place[];
  /** It stands there as the word “threshold”: its value is the decided one, or null where none is decided. */
  decided?: boolean;
}

/** Knobs of a script by name, in each one's unit. */
export type KnobValues = Readonly<Record<string, number>>;

/** What is known of a robot beside the script: decided thresholds and units of sensors, by socket. */
export interface KnobFacts {
  thresholds: Readonly<Record<string, number>>;
  unitOf: (socket: string) => string;
}

interface Found {
  label: string;
  role: KnobRole;
  place: Place;
  value: number;
  unit: string;
  /** Numbers of one group are one knob. */
  group?: string;
  decided?: boolean;
}

const textAt = (lines: readonly string[], { line, column, length }: Place): string =>
  (lines[line - 1] ?? '').slice(column - 1, column - 1 + length);

const NUMBER = /^([-−]?)\s*(\d+(?:\.\d+)?|\.\d+)\s*([^\d\s.]\S*)?$/;

/** What a number without a unit is told in, by what it is compared with or set for: the unit in which it is worth what it is worth. */
const meant: Partial<Record<QuantityKind, readonly Unit[]>> = {
  percent: ['%'],
  length: ['cm', 'mm', 'in'],
  angle: ['deg', 'turns'],
  time: ['s', 'ms'],
  frequency: ['Hz'],
};

/** A number as it is written at a place, with its unit; null where something else stands. */
function written(
  lines: readonly string[],
  place: Place,
  { value: worth, of }: { value: number; of: QuantityKind },
): { value: number; unit: string } | null {
  const found = NUMBER.exec(textAt(lines, place).trim());
  if (!found) return null;
  const word = found[3] ?? '';
  const value = (found[1] ? -1 : 1) * Number(found[2]);
  if (word !== '') return { value, unit: word === '°' ? 'deg' : (unitOfWord(word) ?? word) };
  const usual = meant[of] ?? [];
  const unit = usual.find((one) => Math.abs(Math.abs(value) * units[one].inBase - Math.abs(worth)) < 1e-6);
  return { value, unit: unit ?? '' };
}

/** The number that an expression is, with its sign where that is written before it. */
function literal(expr: Expr, lines: readonly string[]): (Place & { value: number; unit: string }) | null {
  const inner = expr.kind === 'negative' ? expr.operand : expr;
  if (inner.kind !== 'quantity') return null;
  const found = written(lines, expr.at, inner);
  if (found) return { ...expr.at, ...found };
  return expr.kind === 'negative' ? literal(expr.operand, lines) : null;
}

const forWords: Record<'length' | 'angle' | 'time', [string, KnobRole]> = {
  length: ['way', 'way'],
  angle: ['wheel turn', 'way'],
  time: ['time', 'wait'],
};

/** Collects the numbers of a script with what they do, in reading order. */
class Finder {
  readonly found: Found[] = [];
  private readonly program: Program;
  private readonly lines: readonly string[];
  private readonly facts: KnobFacts | null;

  constructor(program: Program, facts: KnobFacts | null) {
    this.program = program;
    this.lines = program.source;
    this.facts = facts;
  }

  private put(expr: Expr, label: string, role: KnobRole, group?: string): void {
    const number = literal(expr, this.lines);
    if (!number) return this.inside(expr, label, role);
    const { value, unit, ...place } = number;
    this.found.push({ label, role, value, unit, place, ...(group ? { group } : {}) });
  }

  private decided(expr: Expr & { kind: 'threshold' }): void {
    const { name, socket } = this.program.sensors[expr.sensor]!;
    const value = this.facts && bySocket(this.facts.thresholds, socket);
    if (value === null || value === undefined) return;
    const unit = this.facts!.unitOf(socket);
    const label = `${name} threshold`;
    this.found.push({ label, role: 'threshold', value, unit, place: expr.at, group: label, decided: true });
  }

  private nameOf(expr: Expr): string | null {
    if (expr.kind === 'sensor') return this.program.sensors[expr.index]!.name;
    if (expr.kind === 'item' || expr.kind === 'raw') return this.program.sensors[expr.sensor]!.name;
    if (expr.kind === 'value') return this.program.values[expr.index]!.name;
    return expr.kind === 'builtin' ? expr.name : null;
  }

  /** What a comparison asks about decides what its number is: a sensor's threshold, or a value at which something is left. */
  private compared(expr: Expr & { kind: 'compare' }): void {
    for (const [side, other] of [
      [expr.right, expr.left],
      [expr.left, expr.right],
    ] as const) {
      const name = this.nameOf(other);
      const sensor = other.kind === 'sensor' ? this.program.sensors[other.index] : undefined;
      const role: KnobRole =
        sensor?.kind === 'heading' || other.kind === 'builtin' ? 'leave' : sensor ? 'threshold' : 'number';
      const label =
        role === 'leave'
          ? `leave at ${name}`
          : role === 'threshold'
            ? `${name} threshold`
            : `limit of ${name ?? 'it'}`;
      if (literal(side, this.lines)) this.put(side, label, role);
    }
    this.inside(expr.left, 'number', 'number');
    this.inside(expr.right, 'number', 'number');
  }

  /** Numbers within an expression that is no number itself. */
  private inside(expr: Expr, label: string, role: KnobRole): void {
    switch (expr.kind) {
      case 'threshold':
        return this.decided(expr);
      case 'compare':
        return this.compared(expr);
      case 'change':
        this.put(expr.by, `change of ${this.nameOf(expr.operand) ?? 'it'}`, 'threshold');
        return;
      case 'arithmetic': {
        const { op, left, right } = expr;
        for (const [one, other] of [
          [left, right],
          [right, left],
        ] as const) {
          if (!literal(one, this.lines)) continue;
          const name = this.nameOf(other);
          const sensed = name !== null && other.kind === 'sensor';
          if (op === '*') this.put(one, 'gain', 'gain');
          else if (op === '/' && one === right) this.put(one, 'divisor', 'gain');
          else if (sensed) this.put(one, `${name} target`, 'threshold');
          else this.put(one, label === 'steering' ? 'offset' : label, role);
        }
        for (const side of [left, right]) if (!literal(side, this.lines)) this.inside(side, label, role);
        return;
      }
      case 'call':
        expr.args.forEach((arg, i) => {
          if (!literal(arg, this.lines)) this.inside(arg, label, role);
          else this.put(arg, i === 0 ? label : `limit of ${label}`, role);
        });
        return;
      default:
        for (const operand of operandsOf(expr)) {
          if (literal(operand, this.lines)) this.put(operand, label, role);
          else this.inside(operand, label, role);
        }
    }
  }

  private lasting({
    until,
    endsWhen,
  }: {
    until: Extract<Step, { kind: 'drive' }>['until'];
    endsWhen: Expr | null;
  }) {
    if (until) this.put(until.amount, ...forWords[until.of]);
    if (endsWhen) this.inside(endsWhen, 'number', 'number');
  }

  /** The two wheels of a line that is followed: the larger is the outer one, whichever side it stands on. */
  private wheels(step: Extract<Step, { kind: 'wheels' }>, pairs: ReadonlySet<string>): void {
    const [left, right] = [literal(step.left, this.lines), literal(step.right, this.lines)];
    if (left && right && pairs.has(`${right.value}/${left.value}`) && left.value !== right.value) {
      const outer = Math.max(left.value, right.value);
      const key = [left.value, right.value].sort((a, b) => a - b).join('/');
      for (const [expr, { value }] of [
        [step.left, left],
        [step.right, right],
      ] as const)
        this.put(
          expr,
          value === outer ? 'outer wheel' : 'inner wheel',
          'wheel',
          `${value === outer ? 'outer' : 'inner'} ${key}`,
        );
      return;
    }
    this.put(step.left, 'left wheel', 'wheel');
    this.put(step.right, 'right wheel', 'wheel');
  }

  step(step: Step, pairs: ReadonlySet<string>): void {
    switch (step.kind) {
      case 'drive':
        this.put(step.speed, 'speed', 'speed');
        return this.lasting(step);
      case 'wheels':
        this.wheels(step, pairs);
        return this.lasting(step);
      case 'steer':
        this.put(step.steering, 'steering', 'number');
        this.put(step.speed, 'speed', 'speed');
        return this.lasting(step);
      case 'turn':
        this.put(step.angle, 'turn', 'turn');
        if (step.speed) this.put(step.speed, 'turning speed', 'speed');
        if (step.endsWhen) this.inside(step.endsWhen, 'number', 'number');
        return;
      case 'spin':
        if (step.speed) this.put(step.speed, 'turning speed', 'speed');
        return this.lasting(step);
      case 'turret':
        if (step.angle) this.put(step.angle, 'turret angle', 'turn');
        if (step.speed) this.put(step.speed, 'turret speed', 'speed');
        return;
      case 'wait':
        return this.put(step.time, 'wait', 'wait');
      case 'repeat':
        if (!step.amount) return;
        return this.put(
          step.amount,
          step.how === 'times' ? 'rounds' : step.how === 'for' ? 'time' : 'number',
          step.how === 'for' ? 'wait' : 'number',
        );
      // What it sounds, shows or counts is not tuned.
      case 'beep':
      case 'show':
      case 'log':
        return;
      case 'set':
        return this.put(step.value, this.program.values[step.index]!.name, 'number');
      default:
        for (const expr of expressionsOf(step)) this.put(expr, 'number', 'number');
    }
  }

  /** What is watched for beside the main program. */
  watched(): void {
    for (const { test } of this.program.watchers) if (test) this.put(test, 'number', 'number');
  }

  lets(): void {
    for (const { initial, role, name } of this.program.values) {
      if (role !== 'let' || !initial) continue;
      const gain = /\b(gain|factor|kp|kd|ki)\b/i.test(name);
      const pace = /\b(speed|pace|power)\b/i.test(name);
      this.put(initial, name, gain ? 'gain' : pace ? 'speed' : 'number');
    }
  }
}

/** A round number a little above: 1, 2 or 5 times a power of ten. */
function roundUp(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value));
  return [1, 2, 5, 10].map((f) => f * power).find((round) => round >= value * (1 - 1e-9))!;
}

const decimals = (value: number): number => (/\.(\d+)$/.exec(String(value))?.[1] ?? '').length;

/** Ends of a slider: what somebody would try for such a number. */
function rangeOf(role: KnobRole, value: number, unit: string): Pick<Knob, 'low' | 'high' | 'step'> {
  const tidy = (low: number, high: number, step: number) => {
    const digits = Math.max(decimals(step), decimals(value));
    // A value that lies between two steps of a slider could not be put back.
    const fine = Number.isInteger(Number((value / step).toFixed(6))) ? step : 10 ** -digits;
    return { low: Math.min(low, value), high: Math.max(high, value), step: fine };
  };
  const sign = value < 0 ? -1 : 1;
  if (role === 'gain') {
    const most = Math.max(2, roundUp(2.5 * Math.abs(value)));
    const step = most > 20 ? 1 : most > 4 ? 0.1 : 0.05;
    return sign < 0 ? tidy(-most, 0, step) : tidy(0, most, step);
  }
  if (unit === '%') {
    if (role === 'wheel') return tidy(-100, 100, 1);
    if (role === 'speed') return sign < 0 ? tidy(-100, -5, 1) : tidy(5, 100, 1);
    return tidy(0, 100, 1);
  }
  if (role === 'leave' || unit === 'deg') {
    const most = roundUp(Math.max(45, 1.5 * Math.abs(value)));
    return sign < 0 ? tidy(-most, 0, 1) : tidy(0, most, 1);
  }
  const least: Record<string, number> = { s: 1, ms: 200, cm: 20, mm: 200, in: 8, turns: 2 };
  const steps: Record<string, number> = { s: 0.1, ms: 10, cm: 0.5, mm: 5, in: 0.25, turns: 0.1 };
  const most = roundUp(Math.max(least[unit] ?? 5, 2 * Math.abs(value)));
  const step = steps[unit] ?? (most > 20 ? 1 : most > 4 ? 0.5 : 0.05);
  return sign < 0 ? tidy(-most, 0, step) : tidy(0, most, step);
}

/** What the numbers of different places are called apart: “speed”, “speed 2”, in reading order. */
function named(found: readonly Found[]): Knob[] {
  const knobs: Knob[] = [];
  const groups = new Map<string, Knob>();
  const counts = new Map<string, number>();
  for (const { label, role, value, unit, place, group, decided } of found) {
    const known = group === undefined ? undefined : groups.get(group);
    if (known) {
      known.places.push(place);
      continue;
    }
    const nth = (counts.get(label) ?? 0) + 1;
    counts.set(label, nth);
    const name = nth === 1 ? label : `${label} ${nth}`;
    const knob: Knob = {
      name,
      role,
      value,
      unit,
      ...rangeOf(role, value, unit),
      places: [place],
      ...(decided ? { decided } : {}),
    };
    knobs.push(knob);
    if (group !== undefined) groups.set(group, knob);
  }
  return knobs;
}

/**
 * Every number of a script that may be tuned, in reading order: its steps' numbers, its values' first ones, and (where `facts` tell
 * it) the decided threshold. The mirrored pair of a two-state follower is two knobs of two places each. Empty for a script with a
 * line that is not understood at all.
 */
export function knobsOf(text: string, facts: KnobFacts | null = null): Knob[] {
  const program = parseScript(text);
  const finder = new Finder(program, facts);
  const pairs = new Set<string>();
  walkProgram(program, (step) => {
    if (step.kind !== 'wheels') return;
    const [left, right] = [literal(step.left, program.source), literal(step.right, program.source)];
    if (left && right) pairs.add(`${left.value}/${right.value}`);
  });
  finder.lets();
  finder.watched();
  walkProgram(program, (step) => finder.step(step, pairs));
  const inOrder = [...finder.found].sort(
    (a, b) => a.place.line - b.place.line || a.place.column - b.place.column,
  );
  return named(inOrder);
}

/** A knob's value as it is written in a script: four decimals at most, no exponent. */
export const knobText = (value: number): string => {
  const rounded = Number(value.toFixed(4));
  return String(rounded === 0 ? 0 : rounded);
};

/**
 * The script with other numbers in place of its own, everything else as it was typed. Names that it has no knob of are ignored.
 * Throws a RangeError for a value that is no number.
 */
export function withKnobs(text: string, values: KnobValues, facts: KnobFacts | null = null): string {
  const edits = knobsOf(text, facts).flatMap((knob) => {
    const value = values[knob.name];
    if (value === undefined) return [];
    if (!Number.isFinite(value)) throw new RangeError(`${knob.name} is no number.`);
    if (value === knob.value) return [];
    return knob.places.map((place) => ({ place, value, knob }));
  });
  const lines = text.split('\n');
  edits.sort((a, b) => b.place.line - a.place.line || b.place.column - a.place.column);
  for (const { place, value, knob } of edits) {
    const line = lines[place.line - 1]!;
    const [before, old, after] = [
      line.slice(0, place.column - 1),
      textAt(lines, place),
      line.slice(place.column - 1 + place.length),
    ];
    const kept = /^[-−]?\s*[\d.]+(\s*\S*)$/.exec(old)?.[1] ?? '';
    const unit = knob.decided ? (knob.unit === '' ? '' : ` ${knob.unit}`) : kept;
    lines[place.line - 1] = `${before}${knobText(value)}${unit}${after}`;
  }
  return lines.join('\n');
}

/** A script with a blank for every number that can be tuned: two that are alike in it differ in their numbers alone. */
export function skeletonOf(text: string): string {
  const program = parseScript(text);
  const lines = [...program.source];
  // The word “threshold” and a number typed in its place are the same step.
  const thresholds = Object.fromEntries(program.sensors.map(({ socket }) => [socket, 0]));
  const places = knobsOf(text, { thresholds, unitOf: () => '' }).flatMap((knob) => knob.places);
  places.sort((a, b) => b.line - a.line || b.column - a.column);
  for (const { line, column, length } of places) {
    const old = lines[line - 1]!;
    lines[line - 1] = `${old.slice(0, column - 1)}□${old.slice(column - 1 + length)}`;
  }
  return lines
    .map((line) => line.replace(/#.*/, '').trim().replace(/\s+/g, ' '))
    .filter((line) => line !== '')
    .join('\n');
}

/** The knobs that somebody would tune first: gains and speeds, thresholds, what is left at; counts and plain numbers last. */
const first: readonly KnobRole[] = ['gain', 'speed', 'threshold', 'leave', 'wheel', 'way', 'turn', 'wait'];

export const usualKnobs = (knobs: readonly Knob[], most = 3): Knob[] =>
  [...knobs]
    .filter(({ role }) => role !== 'number')
    .sort((a, b) => first.indexOf(a.role) - first.indexOf(b.role))
    .slice(0, most)
    .sort((a, b) => knobs.indexOf(a) - knobs.indexOf(b));
