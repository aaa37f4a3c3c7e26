import { useMemo } from 'react';
import { pastSignal } from '@vigilum/core/expect';
import { watcher, type Lesson, type Rehearsal } from '@vigilum/core/lesson';
import { pointOnRobot, type Pose } from '@vigilum/core/motion';
import { footprintRadius } from '@vigilum/core/sim';
import type { RobotBuild } from '@vigilum/core/sensing';
import { MatDrawing, type Trail } from './MatDrawing.tsx';
import { TraceChart } from './TraceChart.tsx';
import { Transport } from './Transport.tsx';
import type { Playback } from './usePlayback.ts';

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

/** One run: mat, trace and transport in one time. */
export function RunView({
  lesson,
  build,
  rehearsal,
  playback,
  threshold,
  text,
}: {
  lesson: Lesson;
  build: RobotBuild;
  rehearsal: Rehearsal;
  playback: Playback;
  threshold: number | null;
  text: string;
}) {
  const trail = useMemo(() => trailOf(rehearsal, lesson, build), [rehearsal, lesson, build]);
  const lines = useMemo(() => text.split('\n'), [text]);
  const fitting = build.fittings.find((f) => f.socket === lesson.need.socket);
  const watch = { ...watcher(build, lesson), radiusMm: footprintRadius(fitting?.heightMm ?? 12) };
  const landmark = lesson.course.landmarks.find((l) => l.id === lesson.floor.landmark);
  const past = rehearsal.evidence.signals[pastSignal(lesson.floor.landmark)]?.values[playback.sample];
  const ended = playback.timeS >= playback.endS;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3">
      <MatDrawing
        className="max-h-[19.2rem] w-full"
        course={lesson.course}
        build={build}
        pose={poseAt(rehearsal, playback.sample)}
        trail={trail}
        upTo={playback.sample}
        watch={watch}
        measure={landmark && past !== undefined && (past >= 0 || ended) ? { landmark, pastMm: past } : null}
        label={`The mat of ${lesson.title} with the robot at ${playback.timeS.toFixed(1)} seconds.`}
      />
      <TraceChart
        className="min-h-48 flex-1"
        trace={rehearsal.evidence}
        socket={lesson.need.socket}
        threshold={threshold}
        playback={playback}
        lines={lines}
      />
      <Transport playback={playback} />
    </div>
  );
}
