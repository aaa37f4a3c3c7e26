import { useState } from 'react';
import { formatNumber } from '@vigilum/core/quantity';
import {
  liveCheck,
  preflight,
  preflightGrade,
  sensorWords,
  summarise,
  type PreflightCheck,
} from '@vigilum/core/sensing';
import { patch, post } from '../../data/api.ts';
import { useLiveReadings } from '../../data/live.ts';
import { useChange } from '../../data/queries.ts';
import { FindingCard } from '../../ui/Finding.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Sparkline } from '../../ui/Sparkline.tsx';
import { ago, useNow } from '../../ui/time.ts';
import { tones, VerdictMark } from '../../ui/verdict.tsx';
import { useStage, type StageContext } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';
import { StandInHand } from '../../reading/StandInHand.tsx';
import { RobotPlan } from './RobotPlan.tsx';

const toneOfGrade = { ok: 'done', risk: 'risk', fault: 'fault' } as const;

/** Sets the height of the sensor as measured with a ruler. */
function HeightField({ context, mend }: { context: StageContext; mend: string }) {
  const { robot, record, fitted } = context;
  const [text, setText] = useState(String(fitted?.fitting.heightMm ?? ''));
  const change = useChange((heightMm: number) =>
    patch(`/robots/${robot.id}/fittings/${record.lesson.need.socket}`, { heightMm }),
  );
  const height = Number(text.replace(',', '.'));
  const good = text.trim() !== '' && Number.isFinite(height) && height >= 1 && height <= 200;
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (good) change.mutate(height);
      }}
    >
      <label className="flex flex-col">
        <span className="text-ink-2">height by ruler, mm</span>
        <input
          className="input w-28 font-mono"
          inputMode="decimal"
          value={text}
          onChange={(e) => setText(e.target.value)}
          aria-invalid={!good}
        />
      </label>
      <button type="submit" className="btn btn-plain" disabled={!good || change.isPending} title={mend}>
        Save height
      </button>
      {good ? null : <p className="w-full text-fault">A height from 1 to 200 mm.</p>}
    </form>
  );
}

function Check({ check, context }: { check: PreflightCheck; context: StageContext }) {
  const { robot, record } = context;
  const { socket } = record.lesson.need;
  const move = useChange((from: string) => patch(`/robots/${robot.id}/fittings/${from}`, { socket }));
  return (
    <FindingCard tone={toneOfGrade[check.grade]} says={check.says} more={check.mend}>
      {check.foundOn ? (
        <button
          type="button"
          className="btn btn-primary"
          disabled={move.isPending}
          onClick={() => move.mutate(check.foundOn!)}
        >
          We moved it to {socket}
        </button>
      ) : check.topic === 'height' && check.grade !== 'ok' ? (
        <HeightField key={context.fitted?.fitting.heightMm} context={context} mend={check.mend} />
      ) : null}
    </FindingCard>
  );
}

/** Move the paper: does the number change? */
function LiveCheck({ context }: { context: StageContext }) {
  const { robot, record, fitted } = context;
  const { need } = record.lesson;
  const live = useLiveReadings(robot.id, need.socket, JSON.stringify(record.build.fittings));
  const now = useNow(15_000) + context.skew;
  const save = useChange((body: object) => post(`/robots/${robot.id}/wire-checks`, body));
  const check = liveCheck(live.recent, fitted?.spec.unit ?? '');
  const s = summarise(live.recent);
  const tone = check.state === 'reacts' ? 'done' : check.state === 'silent' ? 'fault' : 'now';
  const value = live.latest;
  return (
    <Panel
      title="Live check"
      aside="Move the paper: does the number change?"
      className="flex-1"
      footer={
        <>
          <button
            type="button"
            className="btn btn-primary"
            disabled={check.state !== 'reacts' || save.isPending}
            onClick={() => save.mutate({ socket: need.socket, reacts: true, lowest: s.min, highest: s.max })}
          >
            Note that it reacts
          </button>
          {record.wireCheck?.reacts ? <NextStage to="read">On to Read</NextStage> : null}
        </>
      }
    >
      <div className="mb-2 flex items-center gap-4">
        <div className="flex w-40 shrink-0 items-baseline gap-2" aria-live="off">
          <span className="text-figure leading-none font-mono font-bold">
            {value === undefined || value === null ? '–' : formatNumber(value, 0)}
          </span>
          <span className="text-xl text-ink-2">
            {value === null ? 'no reading' : (fitted?.spec.unit ?? '')}
          </span>
        </div>
        <Sparkline values={live.recent} min={0} max={100} className="h-16 min-w-0 flex-1" />
      </div>
      <p className="flex items-start gap-2 font-semibold" role="status">
        <span className="pt-1">
          <VerdictMark tone={tone} />
        </span>
        <span className={tones[tone].text}>
          {live.state === 'gone' ? 'The robot does not answer; trying again.' : check.says}
        </span>
      </p>
      <div className="mt-2">
        <StandInHand robotId={robot.id} surfaces={record.lesson.read.tasks.map((task) => task.surface)} />
      </div>
      {record.wireCheck?.reacts ? (
        <p className="mt-1 text-ink-2">Noted {ago(record.wireCheck.at, now)}: it reacts.</p>
      ) : null}
    </Panel>
  );
}

/** Stage 1: what is plugged in where, against what the lesson needs, and whether the sensor answers. */
export default function WireStage() {
  const context = useStage();
  const { record, robot } = context;
  const { kit, build, lesson } = record;
  const checks = preflight(kit, build, lesson.need);
  const grade = preflightGrade(checks);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_27rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        title="What is plugged in where"
        aside={`${robot.name}, kit ${kit.name}; the lesson reads ${lesson.need.socket}`}
      >
        <div className="grid flex-1 gap-4 md:grid-cols-[minmax(0,14rem)_minmax(0,1fr)]">
          <RobotPlan build={build} kit={kit} watch={lesson.need.socket} />
          <div className="relative overflow-x-auto">
            <table className="w-full">
              <thead className="text-left text-ink-2">
                <tr>
                  <th scope="col" className="w-20 py-1 pl-2 font-semibold">
                    socket
                  </th>
                  <th scope="col" className="font-semibold">
                    holds
                  </th>
                  <th scope="col" className="pr-3 font-semibold">
                    set to
                  </th>
                  <th scope="col" className="pr-2 text-right font-semibold whitespace-nowrap">
                    height, mm
                  </th>
                </tr>
              </thead>
              <tbody>
                {kit.sockets.map((socket) => {
                  const fitting = build.fittings.find((f) => f.socket === socket.name);
                  const wanted = socket.name === lesson.need.socket;
                  return (
                    <tr
                      key={socket.name}
                      className={`h-10 border-t border-line-soft ${wanted ? 'bg-sea-soft' : ''}`}
                    >
                      <th scope="row" className="pl-2 text-left font-mono font-bold">
                        {socket.name}
                      </th>
                      <td>
                        {socket.takes === 'motor' ? (
                          <span className="text-ink-2">
                            {socket.name === 'ML'
                              ? 'left wheel'
                              : socket.name === 'MR'
                                ? 'right wheel'
                                : 'no motor'}
                          </span>
                        ) : fitting ? (
                          <strong>{kit.sensors.find((s) => s.id === fitting.sensorId)?.name}</strong>
                        ) : (
                          <span className="text-ink-2">empty</span>
                        )}
                      </td>
                      <td className="whitespace-nowrap">{fitting ? sensorWords[fitting.mode] : ''}</td>
                      <td className="pr-2 text-right font-mono">
                        {fitting && fitting.mode === 'light' ? formatNumber(fitting.heightMm, 0) : ''}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
        </div>
        <ul className="mt-3 flex flex-col gap-1 border-t border-line-soft pt-3 text-ink-2">
          {lesson.cautions.map((caution) => (
            <li key={caution}>{caution}</li>
          ))}
        </ul>
      </Panel>
      <div className="flex min-h-0 flex-col gap-4">
        <Panel
          title="Before any program"
          className="max-h-[55%]"
          aside={grade === 'ok' ? 'all as the lesson needs it' : undefined}
        >
          <div className="flex flex-col gap-3">
            {checks.map((check) => (
              <Check key={check.topic} check={check} context={context} />
            ))}
          </div>
        </Panel>
        <LiveCheck context={context} />
      </div>
    </div>
  );
}
