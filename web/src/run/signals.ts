import type { Lesson } from '@vigilum/core/lesson';
import { parseScript } from '@vigilum/core/script';
import { fittingOn, sameSocket, sensorOf, type Kit, type RobotBuild } from '@vigilum/core/sensing';
import type { Trace } from '@vigilum/core/sim';

/** A signal that can be drawn over time: its name for people, its unit, and its ends where it has some. */
export interface ChartSignal {
  id: string;
  name: string;
  unit: string;
  min: number | null;
  max: number | null;
}

/** Signals that say something to people beside the sensors. */
const plain: Record<string, string> = {
  speed: 'speed',
  turned: 'turned',
  'gap ahead': 'gap ahead',
  room: 'room to walls and boxes',
  'edge room': 'room to the edge',
  travelled: 'way travelled',
  'number shown': 'number shown',
  turret: 'turret',
  touching: 'touches something',
};

/** What of a run can be drawn, the lesson's own sensor first. */
export function chartSignals(
  trace: Trace,
  lesson: Lesson,
  { kit, build }: { kit: Kit; build: RobotBuild },
  text: string,
): ChartSignal[] {
  const declared = parseScript(text).sensors;
  const sockets = build.fittings.map(({ socket }) => socket).filter((socket) => trace.signals[socket]);
  sockets.sort(
    (a, b) => Number(sameSocket(b, lesson.need.socket)) - Number(sameSocket(a, lesson.need.socket)),
  );
  const sensors = sockets.map((socket): ChartSignal => {
    const fitting = fittingOn(build, socket)!;
    const spec = sensorOf(kit, fitting);
    const name = declared.find((sensor) => sameSocket(sensor.socket, socket))?.name ?? spec?.name ?? socket;
    const bounded = spec && spec.max - spec.min <= 400;
    return {
      id: socket,
      name: `${name} (${socket})`,
      unit: spec?.unit ?? '',
      min: bounded ? Math.min(0, spec.min) : null,
      max: bounded && spec.kind !== 'distance' ? spec.max : null,
    };
  });
  const others = Object.entries(trace.signals).flatMap(([id, { unit }]): ChartSignal[] => {
    if (id.startsWith('value ')) return [{ id, name: id.slice('value '.length), unit, min: null, max: null }];
    if (id.startsWith('off '))
      return [{ id, name: 'off the edge that is followed', unit, min: 0, max: null }];
    const name = plain[id];
    return name ? [{ id, name, unit, min: null, max: null }] : [];
  });
  return [...sensors, ...others];
}
