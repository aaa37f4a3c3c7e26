import { sensorKinds, sensorWords, type Kit, type RobotBuild } from './kit.ts';
import { unitsOfKind } from './usualModes.ts';

/** One thing that is wrong with a kit or a build: the place in its data, and a sentence. */
export interface DataFault {
  field: string;
  says: string;
}

function twice(names: readonly string[]): string | undefined {
  const seen = new Set<string>();
  return names.find((name) => {
    const key = name.toLowerCase();
    if (seen.has(key)) return true;
    seen.add(key);
    return false;
  });
}

/** The first place in a kit's data where a number is none. */
function notANumber(value: unknown, path = ''): string | null {
  if (typeof value === 'number') return Number.isFinite(value) ? null : path;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, inner] of Object.entries(value)) {
    const found = notANumber(inner, path === '' ? key : `${path}.${key}`);
    if (found) return found;
  }
  return null;
}

const inWords = (units: readonly string[]) => units.map((unit) => unit || 'no unit').join(' or ');

/** A socket as scripts can write it: `K3`, `S-a`. A number alone would be read as a number. */
const SOCKET = /^[A-Za-z_][A-Za-z0-9_]*(-[A-Za-z_][A-Za-z0-9_]*)*$/;

/** What contradicts itself in a kit whose fields are each of the right type; empty when nothing does. */
export function kitFaults(kit: Kit): DataFault[] {
  const faults: DataFault[] = [];
  const say = (field: string, says: string) => faults.push({ field, says });
  const unread = notANumber(kit);
  if (unread) return [{ field: unread, says: `${unread} must be a number` }];
  const socket = twice(kit.sockets.map(({ name }) => name));
  if (socket) say('sockets', `two sockets are called ${socket}`);
  kit.sockets.forEach(({ name }, i) => {
    if (!SOCKET.test(name))
      say(
        `sockets.${i}.name`,
        `a script cannot write the socket “${name}”: begin with a letter, such as S${name}`,
      );
  });
  const part = twice(kit.sensors.map(({ id }) => id));
  if (part) say('sensors', `two sensors have the id ${part}`);
  if (!kit.sockets.some(({ takes }) => takes === 'sensor')) say('sockets', 'no socket takes a sensor');
  if (kit.sockets.filter(({ takes, drives }) => takes === 'motor' && drives?.includes('wheel')).length < 2) {
    say('sockets', 'two motor sockets must drive a left wheel and a right wheel');
  }
  kit.sensors.forEach((sensor, i) => {
    const mode = twice(sensor.modes.map(({ kind }) => kind));
    if (mode) say(`sensors.${i}.modes`, `${sensor.name} has the mode ${mode} twice`);
    if (sensor.mountMm && sensor.mountMm.from >= sensor.mountMm.to)
      say(`sensors.${i}.mountMm`, `the lowest height of ${sensor.name} must be below the highest`);
    sensor.modes.forEach((m, j) => {
      const at = `sensors.${i}.modes.${j}`;
      const units = unitsOfKind[m.kind];
      if (!units.includes(m.unit))
        say(
          `${at}.unit`,
          `${sensor.name}: ${sensorWords[m.kind]} is told in ${inWords(units)}, not in ${m.unit || 'no unit'}`,
        );
      if ((m.kind === 'distance' || m.kind === 'light' || m.kind === 'rgb') && m.min < 0)
        say(`${at}.min`, `${sensor.name}: ${sensorWords[m.kind]} is never below 0`);
      if (m.min >= m.max) say(at, `${sensor.name}, ${m.kind}: the lowest reading must be below the highest`);
      else if (m.step > m.max - m.min) say(at, `${sensor.name}, ${m.kind}: the step is wider than the range`);
      if (m.noReading !== undefined && m.noReading >= m.min && m.noReading <= m.max)
        say(at, `${sensor.name}, ${m.kind}: the no-reading code ${m.noReading} is also a reading`);
      if (m.raw && m.raw.atMin === m.raw.atMax)
        say(at, `${sensor.name}, ${m.kind}: its raw readings must differ at the two ends`);
      if (m.kind === 'colour' && (m.colours?.length ?? 0) < 2)
        say(at, `${sensor.name}: colour needs the names of at least two colours`);
    });
  });
  return faults;
}

/** A kit without the fields that say nothing: empty texts and lists of colours. */
export function cleanKit(kit: Kit): Kit {
  return {
    ...kit,
    sockets: kit.sockets.map(({ name, takes, drives, label }) => ({
      name,
      takes,
      ...(drives ? { drives } : {}),
      ...(label ? { label } : {}),
    })),
    sensors: kit.sensors.map(({ mountAdvice, modes, ...sensor }) => ({
      ...sensor,
      modes: modes.map(({ colours, ...mode }) => ({
        ...mode,
        ...(colours && colours.length > 0 ? { colours } : {}),
      })),
      ...(mountAdvice ? { mountAdvice } : {}),
    })),
  };
}

/** What in a robot's build does not go with its kit. */
export function buildFaults(kit: Kit, build: RobotBuild): DataFault[] {
  const faults: DataFault[] = [];
  const double = twice(build.fittings.map(({ socket }) => socket));
  if (double) faults.push({ field: 'fittings', says: `two parts are plugged into ${double}` });
  build.fittings.forEach((fitting, i) => {
    const spec = kit.sensors.find(({ id }) => id === fitting.sensorId);
    if (!kit.sockets.some(({ name, takes }) => name === fitting.socket && takes === 'sensor'))
      faults.push({
        field: `fittings.${i}.socket`,
        says: `${kit.name} has no sensor socket ${fitting.socket}`,
      });
    if (!spec)
      faults.push({ field: `fittings.${i}.sensorId`, says: `${kit.name} has no part ${fitting.sensorId}` });
    else if (!spec.modes.some(({ kind }) => kind === fitting.mode))
      faults.push({ field: `fittings.${i}.mode`, says: `the ${spec.name} cannot measure ${fitting.mode}` });
  });
  if (build.axleFromFrontMm > build.lengthMm)
    faults.push({ field: 'axleFromFrontMm', says: 'the axle would lie behind the robot' });
  if (build.trackMm > build.widthMm + 60)
    faults.push({ field: 'trackMm', says: 'the wheels would stand far outside the robot' });
  return faults;
}

/** Whether a word names a kind of sensor. */
export const isSensorKind = (word: string): word is (typeof sensorKinds)[number] =>
  (sensorKinds as readonly string[]).includes(word);

/**
 * Why a robot cannot be simulated, in one sentence with what to do; null where it can. Kits that were stored before their units
 * were checked may still say a distance in %.
 */
export function cannotSimulate(kit: Kit, build: RobotBuild): string | null {
  for (const { sensorId, mode } of build.fittings) {
    const part = kit.sensors.find(({ id }) => id === sensorId);
    const spec = part?.modes.find(({ kind }) => kind === mode);
    if (!part || !spec) continue;
    const units = unitsOfKind[mode];
    if (!units.includes(spec.unit))
      return `The ${part.name} of the ${kit.name} cannot be simulated: ${sensorWords[mode]} is told in ${inWords(units)}, not in ${spec.unit || 'no unit'}. Change it on the kit’s page.`;
    if (!(spec.min < spec.max) || !(spec.step > 0) || !(spec.samplePeriodMs > 0))
      return `The ${part.name} of the ${kit.name} cannot be simulated: its range, step or period is empty. Change it on the kit’s page.`;
  }
  return null;
}
