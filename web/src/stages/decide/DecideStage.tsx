import { decideWayOf, wantedGapMm } from '@vigilum/core/lesson';
import { driveSpeed } from '@vigilum/core/script';
import { sensorWords } from '@vigilum/core/sensing';
import { pairOf } from '@vigilum/core/threshold';
import { StopGapBoard } from '../../reading/StopGapBoard.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { Empty } from '../../ui/states.tsx';
import { useStage } from '../../workspace/context.ts';
import { NextStage, NextStep } from '../../workspace/NextStage.tsx';
import { BetweenSurfaces } from './BetweenSurfaces.tsx';

/** Why there is no pair to decide between yet, and the way to one. */
function NotYet() {
  const { record, sets } = useStage();
  const { tasks } = record.lesson.read;
  const missing = tasks.filter((task) => !sets.some((s) => s.surface === task.surface));
  const [a, b] = tasks.map((task) => ({
    name: task.surface,
    values: sets.find((s) => s.surface === task.surface)?.values ?? [],
  }));
  const found = a && b ? pairOf(a, b, '%', 1) : null;
  const why = found && !found.ok ? found : null;
  return (
    <Panel className="flex-1">
      <Empty
        title={
          missing.length > 0
            ? `Not read yet: ${missing.map((task) => task.surface).join(', ')}.`
            : (why?.says ?? 'The lesson names no two surfaces to decide between.')
        }
      >
        <p>
          {missing.length > 0
            ? 'A threshold lies between two surfaces, so both must be read first.'
            : (why?.mend ?? 'Compare with a number in the script.')}
        </p>
        <NextStage to="read">Go to Read</NextStage>
      </Empty>
    </Panel>
  );
}

/** Stage 3: readings become a threshold, and everybody sees how safe it is. */
export default function DecideStage() {
  const context = useStage();
  const { record, reader, pair, sets, threshold } = context;
  const { need } = record.lesson;
  const way = decideWayOf(need.kind);
  if (way === 'two surfaces')
    return pair ? (
      <BetweenSurfaces key={sets.map((s) => s.id).join()} context={context} pair={pair} />
    ) : (
      <NotYet />
    );
  if (way === 'gap' && reader)
    return (
      <StopGapBoard
        reader={reader}
        kit={record.kit}
        sets={sets}
        inUse={threshold}
        wanted={{
          gapMm: wantedGapMm(record.lesson),
          percent: record.script ? driveSpeed(record.script.text) : null,
        }}
        next={threshold ? <NextStep /> : null}
      />
    );
  return (
    <Panel className="flex-1">
      <Empty
        title={
          way === 'gap'
            ? `Nothing on ${need.socket} can be read.`
            : `A ${sensorWords[need.kind]} sensor needs no threshold.`
        }
      >
        <p>
          {way === 'gap'
            ? 'Check what is plugged in where.'
            : 'The script compares with something that is known: pressed, 90°, a name.'}
        </p>
        {way === 'gap' ? <NextStage to="wire">Back to Wire</NextStage> : <NextStep />}
      </Empty>
    </Panel>
  );
}
