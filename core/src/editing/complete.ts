import { units, type QuantityKind, type Unit } from '../quantity/index.ts';
import { bySocket, canMeasure, fittingOn, partName, sensorWords, type SensorKind } from '../sensing/index.ts';
import { formatQuantity } from '../quantity/index.ts';
import type { Program } from '../script/index.ts';
import { commentStart } from '../script/index.ts';
import { builtIns, colourWords, lampColours, sensorItems, sensorKindWords } from '../script/index.ts';
import { unitOf, type KnownRobotFacts } from './known.ts';
import { wordMeanings } from './meanings.ts';
import { shapes } from '../script/index.ts';

/** One way to go on. */
export interface Completion {
  label: string;
  detail: string;
  kind: 'step' | 'name' | 'word' | 'unit' | 'socket';
}

/** Ways to go on from a column of a line (from 0); `from` is the column where the word to replace begins. */
export interface Completions {
  from: number;
  options: Completion[];
}

const word = (label: string, detail = ''): Completion => ({ label, detail, kind: 'word' });
const functionNames = ['min', 'max', 'abs', 'round', 'floor', 'clamp', 'remainder', 'state'];
const listWords = ['average', 'smallest', 'largest', 'sum', 'count', 'last'];

function kinds(robot: KnownRobotFacts | null): Completion[] {
  const fitted = (kind: SensorKind) =>
    robot?.build.fittings
      .filter(({ sensorId }) => canMeasure(robot.kit, sensorId, kind))
      .map(({ socket }) => socket) ?? [];
  return sensorKindWords
    .map((kind) => ({ kind, on: fitted(kind) }))
    .sort((a, b) => Number(b.on.length > 0) - Number(a.on.length > 0))
    .map(({ kind, on }) =>
      word(
        kind,
        on.length > 0
          ? `${sensorWords[kind]}, on ${on.join(', ')}`
          : `${sensorWords[kind]}, not on this robot`,
      ),
    );
}

function sockets(robot: KnownRobotFacts | null, takes: 'sensor' | 'motor', kind: string): Completion[] {
  if (!robot) return [];
  const { kit, build } = robot;
  return kit.sockets
    .filter((socket) => socket.takes === takes)
    .map(({ name, drives, label }) => {
      const fitting = fittingOn(build, name);
      const holds = fitting ? partName(kit, fitting.sensorId) : (drives ?? 'nothing plugged in');
      const able = !!fitting && canMeasure(kit, fitting.sensorId, kind as SensorKind);
      return {
        able,
        option: { label: name, detail: label ? `${holds} (${label})` : holds, kind: 'socket' as const },
      };
    })
    .sort((a, b) => Number(b.able) - Number(a.able))
    .map(({ option }) => option);
}

function states(program: Program, name: string): Completion[] {
  const sensor = program.sensors.find((s) => s.name.toLowerCase() === name.toLowerCase());
  const nothing = word('nothing', wordMeanings.nothing);
  if (!sensor) return [];
  if (sensor.kind === 'touch') return ['pressed', 'released', 'bumped'].map((w) => word(w, wordMeanings[w]));
  if (sensor.kind === 'colour') return [...colourWords.map((w) => word(w)), nothing];
  return [nothing];
}

const unitKinds: Record<string, readonly QuantityKind[]> = {
  drive: ['percent'],
  raw: ['percent'],
  wheels: ['percent'],
  spin: ['percent'],
  wait: ['time'],
  turn: ['angle'],
  turret: ['angle'],
  beep: ['frequency'],
};

const lists = (program: Program): Completion[] =>
  program.lists.map(({ name }) => ({ label: name, detail: 'list', kind: 'name' }));

function unitsFor(first: string, before: string): Completion[] {
  const wanted: readonly QuantityKind[] | undefined = /\bfor\s+[\d.]+\s*$/i.test(before)
    ? first === 'repeat' || first === 'beep'
      ? ['time']
      : ['length', 'angle', 'time']
    : /\bat\s+[\d.]+\s*$/i.test(before)
      ? ['percent']
      : unitKinds[first];
  const known = Object.keys(units) as Unit[];
  return known
    .filter((unit) => !wanted || wanted.includes(units[unit].kind))
    .map((unit) => ({ label: unit, detail: units[unit].word, kind: 'unit' as const }));
}

function names(program: Program, robot: KnownRobotFacts | null): Completion[] {
  const sensors = program.sensors.map((sensor): Completion => {
    const unit = robot ? unitOf(robot, sensor) : '';
    return { label: sensor.name, detail: `${sensorWords[sensor.kind]}${unit && `, ${unit}`}`, kind: 'name' };
  });
  const decided = program.sensors.flatMap((sensor) => {
    const value = robot ? bySocket(robot.thresholds, sensor.socket) : undefined;
    return value === undefined ? [] : [`${formatQuantity(value, unitOf(robot!, sensor))} for ${sensor.name}`];
  });
  return [
    ...sensors,
    ...program.values.map((value): Completion => ({
      label: value.name,
      detail: value.task === null ? 'value' : 'given',
      kind: 'name',
    })),
    ...program.lists.flatMap(({ name }) =>
      listWords.map((asks): Completion => word(`${asks} of ${name}`, wordMeanings.smallest)),
    ),
    word('random from', wordMeanings.random),
    word('heard "go"', wordMeanings.heard),
    ...['yes', 'no'].map((label) => word(label, wordMeanings.yes)),
    word('threshold', decided.length > 0 ? decided.join(', ') : 'the decided value'),
    ...Object.keys(builtIns).map((label) => word(label, wordMeanings[label])),
    ...functionNames.map((label) => word(label, wordMeanings[label])),
    ...['and', 'or', 'not'].map((label) => word(label)),
  ];
}

/** How a line can go on at a column (from 0), knowing what the script declares and what the robot has. */
export function completionsAt(
  lineText: string,
  column: number,
  program: Program,
  robot: KnownRobotFacts | null,
): Completions | null {
  if (column > commentStart(lineText)) return null;
  const before = lineText.slice(0, column);
  const typed = /[\p{L}_%][\p{L}\p{N}_-]*$/u.exec(before)?.[0] ?? '';
  const from = column - typed.length;
  const lead = before.slice(0, from);
  const first = /^\s*(\p{L}+)/u.exec(lead)?.[1]?.toLowerCase() ?? '';
  const give = (options: Completion[]) => (options.length > 0 ? { from, options } : null);
  if ((lead.match(/"/g)?.length ?? 0) % 2 === 1) return null;
  if (lead.trim() === '') {
    return give(
      Object.keys(shapes).map((label) => ({ label, detail: shapes[label]![0]!, kind: 'step' as const })),
    );
  }
  if (/[\d.]\s*$/.test(lead) && /\d/.test(lead)) return give(unitsFor(first, lead));
  const subject = /([\p{L}_][\p{L}\p{N}_ ]*?)\s+is(?:\s+not)?\s+$/iu.exec(lead)?.[1] ?? '';
  switch (first) {
    case 'sensor':
    case 'motor': {
      if (/\bis\s+$/i.test(lead))
        return give(first === 'sensor' ? kinds(robot) : [word('turret', 'carries a sensor')]);
      const kind = /\bis\s+(\p{L}+).*\bon\s+$/iu.exec(lead)?.[1]?.toLowerCase();
      return kind ? give(sockets(robot, first, kind)) : give([word('is'), word('on')]);
    }
    case 'turn':
    case 'spin':
    case 'turret':
      if (/^\s*\p{L}+\s+$/u.test(lead)) {
        const ahead = first === 'turret' ? [word('ahead')] : [];
        return give([word('left'), word('right'), ...ahead]);
      }
      break;
    case 'add':
      if (/\bto\s+$/i.test(lead)) return give(lists(program));
      break;
    case 'clear':
      return give(lists(program));
    case 'zero':
      return give(['heading', 'wheels', 'timer'].map((label) => word(label)));
    case 'lamp':
      return give([...lampColours, 'off'].map((label) => word(label)));
    case 'stop':
      return give(/and\s+$/i.test(lead) ? [word('hold'), word('coast')] : [word('and')]);
    case 'do':
      if (!/\bby\b/i.test(lead)) {
        return give(
          program.tasks.map(({ name, at }) => ({
            label: name,
            detail: `own step, line ${at.line}`,
            kind: 'name',
          })),
        );
      }
      break;
    case 'repeat':
      if (/^\s*repeat\s+$/i.test(lead)) return give([word('until'), word('while'), word('for')]);
      break;
    case 'wait':
      if (/^\s*wait\s+$/i.test(lead)) return give([word('until')]);
      break;
    case 'else':
      if (/^\s*else\s+$/i.test(lead)) return give([word('if')]);
      break;
  }
  if (subject) {
    const name = subject.replace(/^.*\b(?:until|while|if|and|or|not)\s+/i, '');
    return give(states(program, name));
  }
  const field = /([\p{L}_][\p{L}\p{N}_]*)\.$/u.exec(lead)?.[1]?.toLowerCase();
  if (field) {
    const sensor = program.sensors.find(({ name }) => name.toLowerCase() === field);
    return give((sensor && sensorItems[sensor.kind]?.map(([label]) => word(label))) ?? []);
  }
  return give(names(program, robot));
}
