import type { BoxPlace, Course } from '@vigilum/core/course';
import { pastSignal } from '@vigilum/core/expect';
import { watcher, type Lesson, type Rehearsal } from '@vigilum/core/lesson';
import { pointOnRobot, type Pose } from '@vigilum/core/motion';
import { formatNumber } from '@vigilum/core/quantity';
import { inBase, type ReadingUnit, type RobotBuild } from '@vigilum/core/sensing';
import { boxSignals } from '@vigilum/core/sim';
import type { Trail } from './MatDrawing.tsx';
import type { ChartSignal } from './signals.ts';

/** The robot's pose at a sample of a run. */
export function poseAt({ evidence }: Rehearsal, i: number): Pose {
  const { x, y, bearing } = evidence.signals;
  return { xMm: x!.values[i]!, yMm: y!.values[i]!, bearingDeg: bearing!.values[i]! };
}

/** The way of the watching sensor; it turns to the signal colour where it first passed the landmark. */
export function trailOf(rehearsal: Rehearsal, lesson: Lesson, build: RobotBuild): Trail {
  const n = rehearsal.evidence.timesS.length;
  const { aheadMm, rightMm } = watcher(build, lesson);
  const x = new Float32Array(n);
  const y = new Float32Array(n);
  for (let i = 0; i < n; i++) {
    const p = pointOnRobot(poseAt(rehearsal, i), aheadMm, rightMm);
    x[i] = p.xMm;
    y[i] = p.yMm;
  }
  const past = rehearsal.evidence.signals[pastSignal(lesson.floor.landmark)]?.values;
  const turns = past ? past.findIndex((v) => v >= 0) : -1;
  return { x, y, turnsAt: turns < 0 ? n : turns };
}

/** What each sensor that looks along the floor reads at a sample, mm, by socket. */
export function reachesAt({ evidence }: Rehearsal, build: RobotBuild, i: number): Record<string, number> {
  const reaches: Record<string, number> = {};
  for (const { socket, mode, facing } of build.fittings) {
    const signal = evidence.signals[socket];
    if (mode !== 'distance' || facing === 'down' || !signal) continue;
    reaches[socket] = inBase(signal.values[i]!, signal.unit as ReadingUnit);
  }
  return reaches;
}

/** The other robot at a sample; null without one. */
export function opponentAt({ evidence }: Rehearsal, i: number): { x: number; y: number } | null {
  const { 'opponent x': x, 'opponent y': y } = evidence.signals;
  return x && y ? { x: x.values[i]!, y: y.values[i]! } : null;
}

/** Where light boxes stand at a sample, by their id. */
export function pushedAt({ evidence }: Rehearsal, course: Course, i: number): Record<string, BoxPlace> {
  return Object.fromEntries(
    (course.boxes ?? []).flatMap(({ id, light }) => {
      const [x, y, turned] = boxSignals(id).map((name) => evidence.signals[name]?.values[i]);
      return light && x !== undefined && y !== undefined
        ? [[id, { xMm: x, yMm: y, turnDeg: turned }] as const]
        : [];
    }),
  );
}

/** What was seen at a sample, in words: the time, each sensor, the step. */
export function seenAt(
  { evidence }: Rehearsal,
  i: number,
  signals: readonly ChartSignal[],
  lines: readonly string[],
): string {
  const told = signals
    .filter(({ id }) => /^[A-Z]/.test(id))
    .map(({ id, name, unit }) => {
      const value = evidence.signals[id]!.values[i]!;
      return `${name.replace(/ \(.*/, '')} ${Number.isNaN(value) ? 'nothing' : `${formatNumber(value)}${unit && ` ${unit}`}`}`;
    });
  const line = evidence.signals.line?.values[i] ?? 0;
  const step = line > 0 ? `line ${line}: ${lines[line - 1]?.trim() ?? ''}` : 'program over';
  return [`${formatNumber(evidence.timesS[i], 2)} s`, ...told, step].join(' · ');
}
