import { formatQuantity, units, type Unit } from '../quantity/index.ts';
import { bySocket, sensorWords } from '../sensing/index.ts';
import type { Program, SensorDeclaration, ValueDeclaration } from '../script/index.ts';
import { commentStart } from '../script/index.ts';
import { keywords } from '../script/index.ts';
import { kindOf, opKind } from '../script/index.ts';
import { partBehind, plugged, readingsTold, unitOf, type KnownRobotFacts } from './known.ts';
import { meanings, wordMeanings } from './meanings.ts';

/** What a word of a script means here: for a tooltip. `from` and `to` are columns counted from 0. */
export interface Explanation {
  from: number;
  to: number;
  word: string;
  says: string[];
}

const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();

function ofSensor(sensor: SensorDeclaration, robot: KnownRobotFacts | null): string[] {
  const first = `${sensorWords[sensor.kind]}, declared on ${sensor.socket}`;
  if (!robot) return [`${first}.`];
  const unit = unitOf(robot, sensor);
  const part = partBehind(robot, sensor);
  const threshold = bySocket(robot.thresholds, sensor.socket);
  return [
    `${first}${unit ? `, in ${unit}` : ''}.`,
    part
      ? `${part.name} on ${sensor.socket}, a fresh reading every ${part.samplePeriodMs} ms.`
      : `There is ${plugged(robot, sensor.socket)}.`,
    readingsTold(robot, sensor),
    threshold === undefined ? '' : `Its threshold is ${formatQuantity(threshold, unit)}.`,
  ].filter(Boolean);
}

function ofValue(value: ValueDeclaration, program: Program): string[] {
  if (value.role === 'counter') return ['The number of the round, from 1.'];
  if (value.role === 'own')
    return [`${opKind(value.of)} that “${program.tasks[value.task!]!.name}” has for itself.`];
  if (value.task !== null) return [`${opKind(value.of)} that “${program.tasks[value.task]!.name}” is given.`];
  const { initial } = value;
  const constant = initial?.kind === 'quantity' ? initial : null;
  const start = constant
    ? ` It starts at ${constant.value} ${baseUnit[kindOf(constant)] ?? ''}`.trimEnd()
    : '';
  return [`${opKind(value.of)}.${start}${start && '.'}`];
}

const baseUnit: Record<string, string> = {
  length: 'mm',
  angle: 'deg',
  time: 's',
  percent: '%',
  frequency: 'Hz',
};

/** What stands at a column of a line (from 0) means; null where there is nothing to explain. */
export function explainAt(
  lineText: string,
  column: number,
  program: Program,
  robot: KnownRobotFacts | null,
): Explanation | null {
  if (column >= commentStart(lineText)) return null;
  const names = [
    ...program.sensors.map((sensor) => ({ name: sensor.name, says: () => ofSensor(sensor, robot) })),
    ...program.values.map((value) => ({ name: value.name, says: () => ofValue(value, program) })),
    ...program.lists.map(({ name, of }) => ({
      name,
      says: () => [`A list of numbers, each ${opKind(of)}; empty at the start.`],
    })),
    ...program.motors.map((motor) => ({
      name: motor.name,
      says: () => [`A turret, declared on ${motor.socket}.`],
    })),
    ...program.tasks.map((task) => ({
      name: task.name,
      says: () => [`An own step of ${task.body.length} steps, on line ${task.at.line}.`],
    })),
    ...Object.keys(wordMeanings)
      .filter((word) => word.includes(' '))
      .map((word) => ({ name: word, says: () => [wordMeanings[word]!] })),
  ];
  // Longer names first: “left floor” before “left”.
  // An own step whose head went astray has no name yet.
  for (const { name, says } of names
    .filter(({ name }) => name !== '')
    .sort((a, b) => b.name.length - a.name.length)) {
    const found = wholeWord(lineText, name, column);
    if (found) return { ...found, word: name, says: says() };
  }
  for (const match of lineText.matchAll(/[\p{L}_][\p{L}\p{N}_]*|%/gu)) {
    const [word] = match;
    const [from, to] = [match.index, match.index + word.length];
    if (column < from || column >= to) continue;
    const lower = word.toLowerCase();
    const leading = lineText.slice(0, from).trim() === '';
    const unit = (Object.keys(units) as Unit[]).find((known) => same(known, word));
    const says =
      (leading ? meanings[lower] : undefined) ??
      wordMeanings[lower] ??
      (unit
        ? `${units[unit].word}: ${opKind(units[unit].kind)}.`
        : keywords.includes(lower)
          ? meanings[lower]
          : undefined);
    return says ? { from, to, word, says: [says] } : null;
  }
  return null;
}

/** Where a name stands around a column, as whole words. */
function wholeWord(text: string, name: string, column: number): { from: number; to: number } | null {
  const [hay, needle] = [text.toLowerCase(), name.toLowerCase()];
  const letter = /[\p{L}\p{N}_]/u;
  for (let from = hay.indexOf(needle); from >= 0; from = hay.indexOf(needle, from + 1)) {
    const to = from + needle.length;
    const whole = !letter.test(hay[from - 1] ?? '') && !letter.test(hay[to] ?? '');
    if (whole && column >= from && column < to) return { from, to };
  }
  return null;
}
