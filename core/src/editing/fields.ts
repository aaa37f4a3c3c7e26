import type { SyntaxNode } from '@lezer/common';
import { units, type Unit } from '../quantity/index.ts';
import { bySocket } from '../sensing/index.ts';
import type { Program } from '../script/index.ts';
import { colourWords, lampColours, sensorKindWords } from '../script/index.ts';

import { unitOf, type KnownRobotFacts } from './known.ts';
import { lineOf } from '../script/index.ts';

export interface FieldChoice {
  value: string;
  label: string;
}

/** A part of a step that can be changed in place. Columns count from 0 in the step's own text. */
export type StepField = { from: number; to: number; label: string } & (
  | { kind: 'number'; value: string; unit: string; units: readonly string[] }
  | { kind: 'choice'; value: string; choices: readonly FieldChoice[] }
  | { kind: 'text'; value: string }
);

/** A step cut into words that stay and fields that can be changed, in reading order. */
export type StepPiece = { kind: 'words'; text: string } | StepField;

const comparisons: FieldChoice[] = [
  { value: '<', label: '< less than' },
  { value: '<=', label: '<= at most' },
  { value: '>', label: '> more than' },
  { value: '>=', label: '>= at least' },
  { value: '=', label: '= equal to' },
  { value: '<>', label: '<> not equal to' },
];
const plain = (words: readonly string[]): FieldChoice[] =>
  words.map((word) => ({ value: word, label: word }));
const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();

/** The units a number may be told in: those of its own kind, or none. */
function unitsLike(unit: string): string[] {
  const known = Object.keys(units) as Unit[];
  const found = known.find((u) => same(u, unit)) ?? (same(unit, 'turn') ? 'turns' : undefined);
  return found ? known.filter((u) => units[u].kind === units[found].kind) : [];
}

class Cutter {
  readonly fields: StepField[] = [];
  private readonly text: string;
  private readonly program: Program;
  private readonly robot: KnownRobotFacts | null;

  constructor(text: string, program: Program, robot: KnownRobotFacts | null) {
    this.text = text;
    this.program = program;
    this.robot = robot;
  }

  private words(node: { from: number; to: number }): string {
    return this.text.slice(node.from, node.to);
  }

  private choice(node: { from: number; to: number }, label: string, choices: readonly FieldChoice[]): void {
    const typed = this.words(node);
    const value = choices.find((c) => same(c.value, typed))?.value ?? typed;
    const all = choices.some((c) => c.value === value) ? choices : [{ value, label: value }, ...choices];
    this.fields.push({ kind: 'choice', from: node.from, to: node.to, label, value, choices: all });
  }

  private number(node: SyntaxNode, from: number): void {
    const number = node.getChild('Number')!;
    const unit = node.getChild('Unit');
    const word = unit ? this.words(unit) : '';
    const list = unitsLike(word);
    this.fields.push({
      kind: 'number',
      from,
      to: node.to,
      label: 'number',
      value: this.text.slice(from, number.to).replace(/\s+/g, '').replace('−', '-'),
      unit: list.find((u) => same(u, word)) ?? word,
      units: list,
    });
  }

  /** The lists of the script, where one stands. */
  private list(node: SyntaxNode): void {
    const { lists } = this.program;
    this.choice(
      node,
      'list',
      lists.map(({ name }) => ({ value: name, label: name })),
    );
  }

  private name(node: SyntaxNode, inSet: boolean): void {
    const { sensors, values } = this.program;
    const value = (v: Program['values'][number]) => ({ value: v.name, label: v.name });
    if (inSet) return this.choice(node, 'value', values.filter((v) => v.task === null).map(value));
    this.choice(node, 'name', [
      ...sensors.map((s) => ({ value: s.name, label: `${s.name} · ${s.kind}` })),
      ...values.filter((v) => v.task === null).map(value),
      ...values
        .filter((v) => v.task !== null && v.name === this.words(node))
        .slice(0, 1)
        .map(value),
    ]);
  }

  /** The decided threshold as a word, or its number typed out. */
  private threshold(node: SyntaxNode): void {
    const named = node.getChild('Name');
    const beside = named ?? node.parent?.getChild('NameRef') ?? null;
    const sensor = beside && this.program.sensors.find((s) => same(s.name, this.words(beside)));
    const value = sensor && this.robot ? bySocket(this.robot.thresholds, sensor.socket) : undefined;
    const unit = sensor && this.robot ? unitOf(this.robot, sensor) : '';
    if (value === undefined || unit === 'deg/s') return;
    const number = `${value}${unit && ` ${unit}`}`;
    this.choice(node, 'threshold', [
      { value: this.words(node).toLowerCase(), label: `threshold · ${number}` },
      { value: number, label: `${number} typed out` },
    ]);
  }

  private states(node: SyntaxNode): FieldChoice[] {
    const subject = node.parent?.getChild('NameRef');
    const sensor = subject && this.program.sensors.find((s) => same(s.name, this.words(subject)));
    if (subject && !sensor) return plain(['yes', 'no']);
    if (sensor?.kind === 'touch') return plain(['pressed', 'released', 'bumped']);
    return sensor?.kind === 'colour' ? plain([...colourWords, 'nothing']) : plain(['nothing']);
  }

  private sockets(step: string): FieldChoice[] {
    const takes = step === 'MotorStep' ? 'motor' : 'sensor';
    return plain(this.robot?.kit.sockets.filter((s) => s.takes === takes).map((s) => s.name) ?? []);
  }

  cut(node: SyntaxNode, step: string): void {
    switch (node.name) {
      case 'Quantity':
        return this.number(node, node.from);
      case 'Negative': {
        const inner = node.getChild('Quantity');
        if (inner) return this.number(inner, node.from);
        break;
      }
      case 'Text':
        this.fields.push({
          kind: 'text',
          from: node.from + 1,
          to: node.to - 1,
          label: 'text',
          value: this.words(node).slice(1, -1),
        });
        return;
      case 'NameRef':
        return this.name(node, false);
      case 'Name':
        if (step === 'SetStep') return this.name(node, true);
        if (['AddStep', 'ClearStep'].includes(step) || node.parent?.name === 'OfList') return this.list(node);
        break;
      case 'Whole':
        return this.choice(
          node,
          'of the list',
          plain(['smallest', 'largest', 'average', 'sum', 'count', 'last']),
        );
      case 'Compare':
      case 'Equals':
        if (step !== 'LetStep') this.choice(node, 'comparison', comparisons);
        return;
      case 'ThresholdRef':
        this.threshold(node);
        return;
      case 'Direction':
        return this.choice(node, 'direction', plain(['left', 'right']));
      case 'StateWord':
        return this.choice(node, 'state', this.states(node));
      case 'Kind':
        if (step === 'SensorStep') this.choice(node, 'kind', plain(sensorKindWords));
        return;
      case 'Socket':
        return this.choice(node, 'socket', this.sockets(step));
      case 'Manner':
        if (step === 'StopStep') this.choice(node, 'manner', plain(['hold', 'coast', 'brake']));
        return;
      case 'Shade':
        return this.choice(node, 'colour', plain([...lampColours, 'off']));
      case 'Zeroable':
        return this.choice(node, 'what', plain(['heading', 'wheels', 'timer']));
      case 'TaskName':
        if (step === 'DoStep' || step === 'SetStep')
          this.choice(
            node,
            'own step',
            this.program.tasks.map((t) => ({ value: t.name, label: t.name })),
          );
        return;
    }
    for (let child = node.firstChild; child; child = child.nextSibling) this.cut(child, step);
  }
}

/** Cuts a step's text (without its comment) into words and fields; a line not understood is one piece of words. */
export function stepPieces(code: string, program: Program, robot: KnownRobotFacts | null): StepPiece[] {
  const { node, error } = lineOf(code, 1);
  if (!node || error) return code === '' ? [] : [{ kind: 'words', text: code }];
  const cutter = new Cutter(code, program, robot);
  cutter.cut(node, node.name);
  const pieces: StepPiece[] = [];
  let at = 0;
  for (const field of cutter.fields) {
    if (field.from > at) pieces.push({ kind: 'words', text: code.slice(at, field.from) });
    pieces.push(field);
    at = field.to;
  }
  if (at < code.length) pieces.push({ kind: 'words', text: code.slice(at) });
  return pieces;
}

/** The step with one field changed. A number field takes its number and unit as one text. */
export const withField = (code: string, field: StepField, value: string): string =>
  code.slice(0, field.from) + value + code.slice(field.to);
