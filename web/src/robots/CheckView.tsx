import { useState } from 'react';
import { preflight, preflightGrade, sensorWords, partName } from '@vigilum/core/sensing';
import { BeforeAnyProgram, LiveCheck } from '../reading/SensorCheck.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Empty } from '../ui/states.tsx';
import { ago, useNow } from '../ui/time.ts';
import { VerdictMark, type Tone } from '../ui/verdict.tsx';
import { useRobotContext } from './RobotLayout.tsx';

/** A guided check, sensor by sensor, with what was noted last. */
export default function CheckView() {
  const { detail, skew } = useRobotContext();
  const { kit, build, checks, room } = detail;
  const now = useNow(15_000) + skew;
  const [chosen, setChosen] = useState(build.fittings[0]?.socket ?? '');
  const fitting = build.fittings.find(({ socket }) => socket === chosen) ?? build.fittings[0];
  if (!fitting)
    return (
      <Panel className="flex-1">
        <Empty title="No sensor is fitted.">
          <p>Say under Build what is plugged in where.</p>
        </Empty>
      </Panel>
    );
  const lastOf = (socket: string, kind: string) =>
    checks.find((check) => check.socket === socket && check.kind === kind) ?? null;
  const need = { kind: fitting.mode, socket: fitting.socket, name: '' };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[24rem_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
      <Panel title="Which sensor?" aside="one after the other">
        <ul className="flex flex-col gap-2">
          {build.fittings.map(({ socket, sensorId, mode }) => {
            const last = lastOf(socket, mode);
            const grade = preflightGrade(preflight(kit, build, { kind: mode, socket, name: '' }));
            const tone: Tone =
              last === null
                ? grade === 'ok'
                  ? 'none'
                  : grade
                : !last.reacts
                  ? 'fault'
                  : grade === 'ok'
                    ? 'done'
                    : grade;
            return (
              <li key={socket}>
                <button
                  type="button"
                  aria-pressed={socket === fitting.socket}
                  onClick={() => setChosen(socket)}
                  className={`flex min-h-14 w-full items-center gap-3 rounded-lg border px-3 py-1.5 text-left ${socket === fitting.socket ? 'border-sea bg-sea-soft' : 'border-line'}`}
                >
                  <VerdictMark tone={tone} size={20} />
                  <span className="font-mono text-lg font-bold">{socket}</span>
                  <span className="min-w-0">
                    <span className="block font-bold">{sensorWords[mode]}</span>
                    <span className="block text-ink-2">
                      {partName(kit, sensorId)},{' '}
                      {last
                        ? `${last.reacts ? 'reacts' : 'does not react'}, ${ago(last.at, now)}`
                        : 'not checked yet'}
                    </span>
                    {last?.says ? <span className="block text-sm text-ink-2">{last.says}</span> : null}
                  </span>
                </button>
              </li>
            );
          })}
        </ul>
      </Panel>
      <div className="flex min-h-0 flex-col gap-4">
        <BeforeAnyProgram
          sensor={{ robot: detail, kit, build, need, room, surfaces: [], skew, last: null }}
          className="max-h-[45%]"
        />
        <LiveCheck
          key={`${fitting.socket} ${fitting.mode}`}
          sensor={{
            robot: detail,
            kit,
            build,
            need,
            room,
            surfaces: room?.surfaces ?? [],
            skew,
            last: lastOf(fitting.socket, fitting.mode),
          }}
        />
      </div>
    </div>
  );
}
