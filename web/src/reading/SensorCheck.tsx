import { typedNumber } from '@vigilum/core/quantity';
import { useState, type ReactNode } from 'react';
import {
  liveCheck,
  preflight,
  reactionGuide,
  restCheck,
  sensorOf,
  fittingOn,
  summarise,
  usualMends,
  type Kit,
  type PreflightCheck,
  type Reading,
  type RobotBuild,
  type SensorNeed,
} from '@vigilum/core/sensing';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { useLiveReadings } from '../data/live.ts';
import { FindingCard } from '../ui/Finding.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Sparkline } from '../ui/Sparkline.tsx';
import { ago, useNow } from '../ui/time.ts';
import { tones, VerdictMark } from '../ui/verdict.tsx';
import { LiveFigure } from './LiveFigure.tsx';
import type { FittingChange, Room } from '@vigilum/contract/types';
import { StandInHand } from './StandInHand.tsx';
import { usePlugIn, useRewire, useSaveCheck } from './saves.ts';

const toneOfGrade = { ok: 'done', risk: 'risk', fault: 'fault' } as const;

/** One sensor to be checked on one robot. */
export interface CheckedSensor {
  robot: { id: number; name: string; standIn: boolean };
  kit: Kit;
  build: RobotBuild;
  need: SensorNeed;
  /** All that the robot must have, where a lesson says so. */
  needs?: readonly SensorNeed[];
  room: Room | null;
  surfaces: readonly string[];
  skew: number;
  /** What was noted last; null when nothing was. */
  last: { reacts: boolean; says: string; at: number } | null;
}

/** Sets the height of the sensor as measured with a ruler. */
function HeightField({ robotId, socket, heightMm }: { robotId: number; socket: string; heightMm: number }) {
  const [text, setText] = useState(String(heightMm));
  const change = useRewire(robotId);
  const height = typedNumber(text);
  const good = height >= 1 && height <= 200;
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (good) change.mutate({ on: socket, body: { heightMm: height } });
      }}
    >
      <Labelled label="height by ruler, mm">
        <input
          className="input w-28 font-mono"
          inputMode="decimal"
          value={text}
          onChange={(e) => setText(e.target.value)}
          aria-invalid={!good}
        />
      </Labelled>
      <Button type="submit" disabled={!good || change.isPending}>
        Save height
      </Button>
      {good ? null : <p className="w-full text-fault">A height from 1 to 200 mm.</p>}
    </form>
  );
}

function Check({ check, sensor: { robot, build, need } }: { check: PreflightCheck; sensor: CheckedSensor }) {
  const { socket } = need;
  const fitting = fittingOn(build, socket);
  const change = useRewire(robot.id);
  const plug = usePlugIn(robot.id);
  const act = (word: string, on: string, body: FittingChange) => (
    <Button main disabled={change.isPending} onClick={() => change.mutate({ on, body })}>
      {word}
    </Button>
  );
  return (
    <FindingCard tone={toneOfGrade[check.grade]} says={check.says} more={check.mend}>
      {check.plugIn ? (
        <Button main disabled={plug.isPending} onClick={() => plug.mutate({ ...check.plugIn!, socket })}>
          We plugged it into {socket}
        </Button>
      ) : null}
      {check.foundOn
        ? act(fitting ? 'We swapped them' : `We moved it to ${socket}`, check.foundOn, { socket })
        : check.topic === 'mode' && check.grade === 'fault'
          ? act('We set it on the robot', socket, { mode: need.kind })
          : null}
      {check.topic === 'height' && check.grade !== 'ok' && fitting ? (
        <HeightField key={fitting.heightMm} robotId={robot.id} socket={socket} heightMm={fitting.heightMm} />
      ) : null}
    </FindingCard>
  );
}

/** Socket, mode, facing and height against what is needed, the most common mistake first. */
export function BeforeAnyProgram({ sensor, className = '' }: { sensor: CheckedSensor; className?: string }) {
  const checks = preflight(sensor.kit, sensor.build, sensor.need, sensor.needs);
  return (
    <Panel
      title="Before any program"
      className={className}
      aside={checks.every(({ grade }) => grade === 'ok') ? 'all as it is needed' : undefined}
    >
      <div className="flex flex-col gap-3">
        {checks.map((check) => (
          <Check key={check.topic} check={check} sensor={sensor} />
        ))}
      </div>
    </Panel>
  );
}

/** Lowest and highest of what is shown, with some room, so that a heading fills its line as well as a percentage. */
function reach(values: readonly Reading[], least: number): { min: number; max: number } {
  const { min, max } = summarise(values);
  if (min === null || max === null) return { min: 0, max: 1 };
  const spare = Math.max(least - (max - min), 0) / 2 + 0.05 * (max - min);
  return { min: min - spare, max: max + spare };
}

const SHOWN = 120;

/** Press it, cover it, move a hand, turn the robot: does the number change? And does a heading keep still at rest? */
export function LiveCheck({ sensor, next }: { sensor: CheckedSensor; next?: ReactNode }) {
  const { robot, kit, build, need, room, surfaces, skew, last } = sensor;
  const fitting = fittingOn(build, need.socket);
  const spec = fitting && sensorOf(kit, fitting);
  const guide = reactionGuide[spec?.kind ?? need.kind];
  const live = useLiveReadings(robot.id, need.socket, JSON.stringify(build.fittings));
  const now = useNow(15_000) + skew;
  const save = useSaveCheck(robot.id);
  const check = liveCheck(live.recent, spec?.unit ?? '', guide);
  const s = summarise(live.recent);
  const resting = spec?.kind === 'heading' || spec?.kind === 'spin';
  const [rest, setRest] = useState<ReturnType<typeof restCheck> | null>(null);
  // The first five seconds at rest are judged once and kept: turning the robot afterwards is the other half of the check.
  const still = spec?.kind === 'heading' ? (rest ?? restCheck(live.recent, spec.samplePeriodMs)) : null;
  if (still && !rest && (still.state === 'still' || still.state === 'drifts')) setRest(still);
  const tone = check.state === 'reacts' ? 'done' : check.state === 'silent' ? 'fault' : 'now';
  const shown = live.recent.slice(-SHOWN);
  const range = resting || spec?.kind === 'rgb' || !spec ? reach(shown, guide.swing) : spec;
  const note = (reacts: boolean) =>
    save.mutate({
      socket: need.socket,
      kind: need.kind,
      reacts,
      lowest: s.min,
      highest: s.max,
      driftPerS: still?.driftPerS ?? null,
      says: [check.says, still?.says].filter(Boolean).join(' '),
    });
  return (
    <Panel
      title="Live check"
      aside={guide.act}
      className="flex-1"
      footer={
        <>
          <Button
            main
            disabled={check.state !== 'reacts' || still?.state === 'waiting' || save.isPending}
            onClick={() => note(true)}
          >
            Note: it reacts
          </Button>
          {!last?.reacts && (check.state === 'still' || check.state === 'silent') ? (
            <Button disabled={save.isPending} onClick={() => note(false)}>
              Note: it does not
            </Button>
          ) : null}
          {next}
        </>
      }
    >
      <div className="mb-2 flex items-center gap-4">
        {spec ? (
          <LiveFigure sensor={spec} value={live.latest} rgb={live.rgb} note="" />
        ) : (
          <span className="flex items-baseline gap-2">
            <span className="text-figure leading-none font-mono font-bold">–</span>
            <span className="text-xl text-ink-2">no reading</span>
          </span>
        )}
        <Sparkline values={shown} min={range.min} max={range.max} className="h-16 min-w-0 flex-1" />
      </div>
      {still ? (
        <p className="mb-1 flex items-start gap-2 font-semibold" role="status">
          <span className="pt-1">
            <VerdictMark
              tone={
                ({ still: 'done', drifts: 'fault', silent: 'fault', waiting: 'now' } as const)[still.state]
              }
            />
          </span>
          <span>
            {still.says} <span className="font-normal text-ink-2">{still.mend}</span>
            {rest ? (
              <button
                type="button"
                className="ml-2 inline-flex min-h-11 items-center font-semibold text-sea underline"
                onClick={() => setRest(null)}
              >
                look again
              </button>
            ) : null}
          </span>
        </p>
      ) : null}
      <p className="flex items-start gap-2 font-semibold" role="status">
        <span className="pt-1">
          <VerdictMark tone={tone} />
        </span>
        <span className={tones[tone].text}>
          {live.state === 'gone' ? 'The robot does not answer; trying again.' : check.says}
        </span>
      </p>
      {robot.standIn ? (
        <div className="mt-2">
          <StandInHand robotId={robot.id} surfaces={surfaces} room={room} kind={spec?.kind ?? need.kind} />
        </div>
      ) : null}
      {check.state === 'silent' || check.state === 'still' ? (
        <ol className="mt-2 list-decimal pl-7 text-ink-2" aria-label="What usually mends it">
          {usualMends.map((mend) => (
            <li key={mend}>{mend}</li>
          ))}
        </ol>
      ) : null}
      {last ? (
        <p className="mt-1 text-ink-2">
          Noted {ago(last.at, now)}: {last.reacts ? 'it reacts.' : 'it does not react.'}
        </p>
      ) : null}
    </Panel>
  );
}
