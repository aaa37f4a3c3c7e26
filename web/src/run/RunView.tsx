import { useMemo, useState, type ComponentProps } from 'react';
import { pastSignal } from '@vigilum/core/expect';
import { watcher, type Lesson, type Rehearsal } from '@vigilum/core/lesson';
import { footprintRadius } from '@vigilum/core/sim';
import { fittingOn, sameSocket, type Kit, type RobotBuild } from '@vigilum/core/sensing';
import { Labelled } from '../ui/fields.tsx';
import { MatDrawing } from './MatDrawing.tsx';
import { chartSignals } from './signals.ts';
import { TraceChart } from './TraceChart.tsx';
import { opponentAt, poseAt, pushedAt, reachesAt, seenAt, trailOf } from './trail.ts';
import { Transport } from './Transport.tsx';
import type { Playback } from './usePlayback.ts';

const downward = ['light', 'ambient', 'colour', 'rgb'];

/** The spot under the lesson's sensor, when it looks down. */
export function watchOf(build: RobotBuild, lesson: Lesson) {
  const fitting = fittingOn(build, lesson.need.socket);
  if (fitting && !downward.includes(fitting.mode)) return undefined;
  return { ...watcher(build, lesson), radiusMm: footprintRadius(fitting?.heightMm ?? 12) };
}

/** The lesson as one run had it: its own course and sentences, where the task varies. */
export function lessonOfRun(lesson: Lesson, run: Rehearsal | null): Lesson {
  if (!run?.task) return lesson;
  const { course, expectations } = run.task;
  return { ...lesson, course, expectations };
}

/** The mat at one sample of a run: the robot, the way up to there, what its sensors reach, and how far it is past the landmark. */
export function MatOfRun({
  lesson,
  build,
  rehearsal,
  compared = null,
  sample,
  atS,
  over,
  ...rest
}: {
  lesson: Lesson;
  build: RobotBuild;
  rehearsal: Rehearsal;
  compared?: Rehearsal | null;
  sample: number;
  /** The same moment, s from the start. */
  atS: number;
  /** How far it is short of the landmark is told as well: the run, or what is shown of it, is over. */
  over: boolean;
} & Pick<ComponentProps<typeof MatDrawing>, 'className' | 'label' | 'onPoint' | 'onPick'>) {
  const trail = useMemo(() => trailOf(rehearsal, lesson, build), [rehearsal, lesson, build]);
  const other = useMemo(() => compared && trailOf(compared, lesson, build), [compared, lesson, build]);
  const watch = useMemo(() => watchOf(build, lesson), [build, lesson]);
  const landmark = lesson.course.landmarks.find((l) => l.id === lesson.floor.landmark);
  const past = rehearsal.evidence.signals[pastSignal(lesson.floor.landmark)]?.values[sample];
  return (
    <MatDrawing
      {...rest}
      course={lesson.course}
      build={build}
      pose={poseAt(rehearsal, sample)}
      trail={trail}
      other={other}
      upTo={sample}
      {...(watch ? { watch } : {})}
      atS={atS - (rehearsal.circumstances.laterS ?? 0)}
      opponent={opponentAt(rehearsal, sample)}
      pushed={pushedAt(rehearsal, lesson.course, sample)}
      turretDeg={rehearsal.evidence.signals.turret?.values[sample] ?? 0}
      reaches={reachesAt(rehearsal, build, sample)}
      measure={landmark && past !== undefined && (past >= 0 || over) ? { landmark, pastMm: past } : null}
    />
  );
}

/** One run: mat, trace and transport in one time; another run may lie under it, dashed. */
export function RunView({
  lesson,
  build,
  kit,
  rehearsal,
  compared = null,
  playback,
  thresholds,
  text,
}: {
  lesson: Lesson;
  build: RobotBuild;
  kit: Kit;
  rehearsal: Rehearsal;
  compared?: Rehearsal | null;
  playback: Playback;
  /** Decided thresholds by socket, in the sensors' own units. */
  thresholds: Readonly<Record<string, number>>;
  text: string;
}) {
  const lines = useMemo(() => text.split('\n'), [text]);
  const signals = useMemo(
    () => chartSignals(rehearsal.evidence, lesson, { kit, build }, text),
    [rehearsal, lesson, kit, build, text],
  );
  const [chosen, setChosen] = useState('');
  const [pointed, setPointed] = useState<number | null>(null);
  const signal = signals.find(({ id }) => id === chosen) ?? signals[0];
  const { sample } = playback;
  const threshold = Object.entries(thresholds).find(
    ([socket]) => signal && sameSocket(socket, signal.id),
  )?.[1];
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-2">
      <MatOfRun
        className={`w-full ${lesson.course.widthMm / lesson.course.heightMm > 0.6 && lesson.course.widthMm / lesson.course.heightMm < 1.7 ? 'min-h-64 flex-[3]' : 'max-h-[19.2rem]'}`}
        lesson={lesson}
        build={build}
        rehearsal={rehearsal}
        compared={compared}
        sample={sample}
        atS={playback.timeS}
        over={playback.timeS >= playback.endS}
        onPoint={setPointed}
        onPick={(i) => playback.seek(rehearsal.evidence.timesS[i]!)}
        label={`The mat of ${lesson.title} with the robot at ${playback.timeS.toFixed(1)} seconds.`}
      />
      <div className="flex flex-wrap items-center gap-x-3">
        <Labelled beside label="over time">
          <select
            className="input h-9 w-auto"
            value={signal?.id ?? ''}
            onChange={(event) => setChosen(event.target.value)}
          >
            {signals.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </Labelled>
        <p className="min-w-0 flex-1 truncate text-ink-2" aria-live="polite">
          {pointed === null
            ? 'Point at the trail: what did it see there?'
            : `There: ${seenAt(rehearsal, Math.min(pointed, rehearsal.evidence.timesS.length - 1), signals, lines)}`}
        </p>
      </div>
      {signal ? (
        <TraceChart
          className="min-h-40 flex-[2]"
          trace={rehearsal.evidence}
          other={compared?.evidence ?? null}
          signal={signal}
          threshold={threshold ?? null}
          playback={playback}
          lines={lines}
        />
      ) : null}
      <Transport playback={playback} />
    </div>
  );
}
