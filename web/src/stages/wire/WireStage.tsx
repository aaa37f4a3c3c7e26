import { useState } from 'react';
import { needsOf, sensorRecordOn } from '@vigilum/core/classroom';
import { preflight, preflightGrade, sensorWords } from '@vigilum/core/sensing';
import { RobotPlan } from '../../reading/RobotPlan.tsx';
import { BeforeAnyProgram, LiveCheck, type CheckedSensor } from '../../reading/SensorCheck.tsx';
import { WiringTable } from '../../reading/WiringTable.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { useStage } from '../../workspace/context.ts';
import { NextStage } from '../../workspace/NextStage.tsx';

const marks = { ok: '✓', risk: '△', fault: '✕' };

/** Stage 1: what is plugged in where, against what the lesson and the script need, and whether each sensor answers. */
export default function WireStage() {
  const { record, robot, room, skew, step } = useStage();
  const { kit, build, lesson } = record;
  const all = needsOf(record);
  // A step may look at some of the sensors only.
  const asked = all.filter(({ socket }) => step?.part?.sockets?.includes(socket) ?? true);
  const needs = asked.length > 0 ? asked : all;
  const sockets = needs.map(({ socket }) => socket);
  const [chosen, setChosen] = useState(lesson.need.socket);
  const need = needs.find(({ socket }) => socket === chosen) ?? needs[0]!;
  const checked = sensorRecordOn(record, need.socket)?.wireCheck;
  const sensor: CheckedSensor = {
    robot,
    kit,
    build,
    need,
    needs: all,
    room,
    surfaces: lesson.read.tasks.map((task) => task.surface),
    skew,
    last: checked ? { ...checked, says: '' } : null,
  };
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_27rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        scrolls
        title="What is plugged in where"
        aside={`${robot.name}, kit ${kit.name}; the lesson reads ${lesson.need.socket}`}
      >
        {needs.length > 1 ? (
          <div className="mb-2">
            <Choice
              label="Sensors that the lesson and the script use"
              options={sockets}
              value={need.socket}
              choose={setChosen}
              words={Object.fromEntries(
                needs.map((n) => [
                  n.socket,
                  `${marks[preflightGrade(preflight(kit, build, n, all))]} ${n.socket} ${sensorWords[n.kind]}`,
                ]),
              )}
            />
          </div>
        ) : null}
        <div className="grid flex-1 gap-4 md:grid-cols-[minmax(0,19rem)_minmax(0,1fr)]">
          <RobotPlan build={build} kit={kit} watch={need.socket} />
          <div className="relative overflow-x-auto">
            <WiringTable kit={kit} build={build} wanted={sockets} />
          </div>
        </div>
        <ul className="mt-3 flex flex-col gap-1 border-t border-line-soft pt-3 text-ink-2">
          {lesson.cautions.map((caution) => (
            <li key={caution}>{caution}</li>
          ))}
        </ul>
      </Panel>
      <div className="flex min-h-0 flex-col gap-4">
        <BeforeAnyProgram sensor={sensor} className="max-h-[55%]" />
        <LiveCheck
          key={need.socket}
          sensor={sensor}
          next={checked?.reacts ? <NextStage to="read">On to Read</NextStage> : null}
        />
      </div>
    </div>
  );
}
