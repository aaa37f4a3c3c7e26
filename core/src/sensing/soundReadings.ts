import { sameSocket, sensorWords, type Kit, type RobotBuild, type SensorKind } from './kit.ts';
import type { Sample } from './sampleSet.ts';

/** How far beyond its range a sensor may tell, as a share of the range: kits say what is dependable, not what is possible. */
const BEYOND = 0.25;

/**
 * What is wrong with readings for a robot: a socket that its kit has not, a kind that none of its parts measures, triples of what is one
 * number, numbers far outside the range. A sentence, or null for nothing. `kind` null: whatever is plugged in there measures.
 */
export function readingsFault(
  kit: Kit,
  build: RobotBuild,
  { socket, kind, values }: { socket: string; kind: SensorKind | null; values: readonly Sample[] },
): string | null {
  const known = kit.sockets.find(({ name }) => sameSocket(name, socket));
  if (!known) return `the ${kit.name} has no socket ${socket}`;
  const fitted = build.fittings.find((fitting) => sameSocket(fitting.socket, socket));
  const measured = kind ?? fitted?.mode ?? null;
  if (measured === null || measured === 'wheel') return null;
  const modes = kit.sensors.flatMap((part) => part.modes.filter((mode) => mode.kind === measured));
  if (modes.length === 0) return `no part of the ${kit.name} measures ${sensorWords[measured]}`;
  const triples = measured === 'rgb';
  const [min, max] = [Math.min(...modes.map((mode) => mode.min)), Math.max(...modes.map((mode) => mode.max))];
  const slack = BEYOND * (max - min);
  const { unit } = modes[0]!;
  for (const value of values) {
    if (value === null) continue;
    if ((typeof value === 'number') === triples)
      return triples
        ? 'rgb colour is three numbers a look'
        : `${sensorWords[measured]} is one number a look, not three`;
    for (const one of typeof value === 'number' ? [value] : value)
      if (one < min - slack || one > max + slack)
        return `${one}${unit ? ` ${unit}` : ''} is no ${sensorWords[measured]} of the ${kit.name}, which tells ${min} to ${max}`;
  }
  return null;
}
