import {
  canMeasure,
  fittingOn,
  partName,
  sameSocket,
  sensorWords,
  type SensorKind,
} from '../sensing/index.ts';
import type { Program, SensorDeclaration } from '../script/index.ts';
import type { Finding, Fix } from '../script/index.ts';
import { programParts, sensorOfPart, sensorsIn, walkProgram } from '../script/index.ts';
import { partBehind } from '../editing/index.ts';
import { finding, wordsAt, type ReviewContext, type Rule } from './context.ts';

/** Rule 6: what the script believes against what is plugged in. */
export const wiring: Rule = (program, context) => {
  const asked = used(program);
  return [
    ...program.sensors.flatMap((sensor, index) =>
      sensorWiring(program, context, sensor, index, asked.has(index)),
    ),
    ...motorWiring(program, context),
    ...rawReadings(program, context),
  ];
};

function used(program: Program): Set<number> {
  const found = new Set<number>();
  for (const part of programParts(program)) {
    const sensor = sensorOfPart(part);
    if (sensor !== null) found.add(sensor);
  }
  walkProgram(program, (step) => {
    if (step.kind === 'zero' && step.what === 'heading') {
      program.sensors.forEach((sensor, index) => sensor.kind === 'heading' && found.add(index));
    }
  });
  program.values.forEach(({ initial }) => initial && sensorsIn(initial).forEach((index) => found.add(index)));
  return found;
}

/** Where on this robot a kind could be had, but for a socket. */
const elsewhere = ({ kit, build }: ReviewContext, kind: SensorKind, but: string) =>
  build.fittings.filter(
    ({ socket, sensorId }) => !sameSocket(socket, but) && canMeasure(kit, sensorId, kind),
  );

/** Writes another socket into a declaration. */
function socketFix(program: Program, sensor: SensorDeclaration, socket: string): Fix | undefined {
  const line = program.source[sensor.at.line - 1] ?? '';
  const from = line
    .toLowerCase()
    .indexOf(sensor.socket.toLowerCase(), line.toLowerCase().lastIndexOf(' on '));
  if (from < 0) return undefined;
  const at = { line: sensor.at.line, column: from + 1, length: sensor.socket.length };
  return { label: `Write ${socket} instead`, edit: { kind: 'replace', at, text: socket } };
}

function sensorWiring(
  program: Program,
  context: ReviewContext,
  sensor: SensorDeclaration,
  index: number,
  asked: boolean,
): Finding[] {
  const { kit, build } = context;
  const there = fittingOn(build, sensor.socket);
  const socket = kit.sockets.find((s) => sameSocket(s.name, sensor.socket));
  const others = elsewhere(context, sensor.kind, sensor.socket);
  const free = others.filter((f) => !program.sensors.some((s) => sameSocket(s.socket, f.socket)));
  const move = free.length === 1 ? socketFix(program, sensor, free[0]!.socket) : undefined;
  if (!socket || socket.takes !== 'sensor') {
    const list = kit.sockets.filter((s) => s.takes === 'sensor').map((s) => s.name);
    return [
      finding(
        sensor.at,
        'fault',
        'wiring',
        `${kit.name} has no sensor socket ${sensor.socket}.`,
        'The program would read nothing.',
        `Its sockets are ${list.join(', ')}.`,
        move,
      ),
    ];
  }
  if (!there || !canMeasure(kit, there.sensorId, sensor.kind)) {
    const holds = there ? `a ${partName(kit, there.sensorId)}` : 'nothing';
    return [
      finding(
        sensor.at,
        'fault',
        'wiring',
        `${sensor.socket} has ${holds}, not a ${sensorWords[sensor.kind]} sensor.`,
        `“${sensor.name}” would never give a reading.`,
        'Move the plug, or change the socket in this line.',
        move,
      ),
    ];
  }
  const found: Finding[] = [];
  if (there.mode !== sensor.kind) {
    found.push(
      finding(
        sensor.at,
        'note',
        'mode',
        `${sensor.socket} is set to ${sensorWords[there.mode]}; the program sets it to ${sensorWords[sensor.kind]}.`,
        'The numbers read so far were taken in the other mode.',
        'Read again in this mode, or change the kind in this line.',
      ),
    );
  }
  const twice = program.sensors.findIndex((other) => sameSocket(other.socket, sensor.socket));
  if (twice < index && program.sensors[twice]!.kind !== sensor.kind) {
    found.push(
      finding(
        sensor.at,
        'risk',
        'two modes',
        `${sensor.socket} is asked for ${sensorWords[program.sensors[twice]!.kind]} and for ${sensorWords[sensor.kind]}.`,
        'One part measures one thing at a time; switching takes it a while, and lamps may blink.',
        'Use two parts, or one kind for both.',
      ),
    );
  }
  if (!asked) {
    found.push(
      finding(
        sensor.at,
        'note',
        'unused sensor',
        `“${sensor.name}” is declared and never used.`,
        'Reading a sensor does nothing by itself.',
        'Use it in a wait or a test, or remove the line.',
        { label: `Remove line ${sensor.at.line}`, edit: { kind: 'remove', line: sensor.at.line } },
      ),
    );
  }
  return found;
}

function motorWiring(program: Program, { kit }: ReviewContext): Finding[] {
  const free = kit.sockets.filter(({ takes, drives }) => takes === 'motor' && !drives?.includes('wheel'));
  const found = program.motors.flatMap((motor): Finding[] => {
    const socket = kit.sockets.find((s) => sameSocket(s.name, motor.socket));
    if (socket?.takes === 'motor' && !socket.drives?.includes('wheel')) return [];
    const holds = socket?.drives ? `turns the ${socket.drives}` : `is no motor socket of ${kit.name}`;
    return [
      finding(
        motor.at,
        'fault',
        'wiring',
        `${motor.socket} ${holds}; no turret can be there.`,
        'The turret would never turn.',
        free.length > 0
          ? `Use ${free.map((s) => s.name).join(' or ')}.`
          : `${kit.name} has no motor socket to spare.`,
      ),
    ];
  });
  if (program.motors.length > 0) return found;
  walkProgram(program, (step) => {
    if (step.kind !== 'turret' || found.length > 0) return;
    const [spare] = free;
    found.push(
      finding(
        step.at,
        'fault',
        'wiring',
        'No turret is declared.',
        'The step would turn nothing.',
        spare
          ? `Write at the top: motor scanner is turret on ${spare.name}.`
          : `${kit.name} has no motor socket to spare.`,
        spare && {
          label: `Add “motor scanner is turret on ${spare.name}”`,
          edit: { kind: 'insert', after: 0, text: `motor scanner is turret on ${spare.name}` },
        },
      ),
    );
  });
  return found;
}

/** Where a part tells no raw readings, saying so is better than a number that never comes. */
function rawReadings(program: Program, context: ReviewContext): Finding[] {
  return programParts(program)
    .filter((part) => part.kind === 'raw' && !partBehind(context, program.sensors[part.sensor]!)?.raw)
    .map((part): Finding => {
      const name = wordsAt(program, part.at).replace(/^raw\s+/i, '');
      return finding(
        part.at,
        'fault',
        'raw reading',
        `“${name}” of ${context.kit.name} tells no raw readings.`,
        'It would read nothing here.',
        `Use the reading itself: ${name}.`,
        { label: `Write “${name}” instead`, edit: { kind: 'replace', at: part.at, text: name } },
      );
    });
}
