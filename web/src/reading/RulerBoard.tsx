import { Hand } from 'lucide-react';
import { useMemo, useState, type ReactNode } from 'react';
import type { StoredSet } from '@vigilum/core/classroom';
import { convert, countOf, formatFixed, formatNumber, type Unit, typedNumber } from '@vigilum/core/quantity';
import {
  asNumber,
  calibrate,
  judgeCalibration,
  rulerPoints,
  summaryOf,
  trueValue,
  type Sample,
} from '@vigilum/core/sensing';
import { Button } from '../ui/Button.tsx';
import { FindingCard } from '../ui/Finding.tsx';
import { setLengthUnit, lengthUnits, useLengthUnit } from '../ui/lengthUnit.ts';
import { Choice } from '../ui/Choice.tsx';
import { Panel } from '../ui/Panel.tsx';
import { useKey } from '../ui/useKey.ts';
import { WorkingLink } from '../workings/WorkingLink.tsx';
import { Asked, type AskedTruth } from './Asked.tsx';
import { CalibrationChart } from './CalibrationChart.tsx';
import { LiveFigure } from './LiveFigure.tsx';
import type { Reader } from './reader.ts';
import { useHand } from './StandInHand.tsx';
import { liveNote } from './SurfaceBoard.tsx';
import { useBurst } from './useBurst.ts';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { useRemoveReading, useSaveSet } from './saves.ts';

const SAMPLES = 10;
/** Farther than this off the line a reading is not called usable, in mm and as a share of the distance seen. */
const TOLERANCE_MM = 10;

/** Distances against a ruler: the true value typed in, readings beside it, the line through them. */
export function RulerBoard({
  reader,
  sets,
  asked = [],
  next,
}: {
  reader: Reader;
  sets: readonly StoredSet[];
  /** Distances that the lesson asks for, mm. */
  asked?: readonly AskedTruth[];
  next?: ReactNode;
}) {
  const { robot, fitting, sensor, room } = reader;
  const own = sensor.unit as Unit;
  const shown = useLengthUnit();
  const into = (value: number) => convert(value, own, shown);
  const digits = shown === 'mm' ? 0 : 1;
  const [text, setText] = useState('');
  const truth = typedNumber(text);
  const good = truth > 0 && convert(truth, shown, 'mm') <= 10_000;
  const hand = useHand(robot.id);
  const save = useSaveSet(robot.id);
  const remove = useRemoveReading('sample-sets', 'Readings removed.', robot.id);
  const { live, taking, take } = useBurst(robot.id, fitting.socket, reader.epoch);
  const busy = taking !== null || save.isPending;
  const start = () => {
    if (busy || !good) return;
    take(SAMPLES, (samples: Sample[]) =>
      save.mutate(
        {
          socket: fitting.socket,
          kind: sensor.kind,
          surface: 'against the ruler',
          truth: Number(convert(truth, shown, own).toFixed(4)),
          values: samples.map(asNumber),
        },
        { onSuccess: () => setText('') },
      ),
    );
  };
  useKey(' ', start);
  const rows = useMemo(
    () =>
      sets
        .filter((set) => set.truth !== null)
        .map((set) => ({ set, truth: set.truth!, s: summaryOf(set) }))
        .sort((a, b) => a.truth - b.truth),
    [sets],
  );
  const points = useMemo(
    () =>
      rulerPoints(
        rows.map(({ set }) => set),
        own,
        shown,
      ),
    [rows, own, shown],
  );
  const tolerance = convert(TOLERANCE_MM, 'mm', shown);
  const found = useMemo(() => calibrate(points, tolerance), [points, tolerance]);
  const line = found.ok ? found.value : null;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_27rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel title="Readings against the ruler" aside={`off the line in ${shown}; dashed: as it should be`}>
        <div className="mb-1 flex flex-wrap items-center gap-x-6 gap-y-2">
          <LiveFigure
            sensor={sensor}
            value={live.latest}
            note={
              line && typeof live.latest === 'number'
                ? `by the line truly ${formatNumber(trueValue(line, into(live.latest)), digits)} ${shown}`
                : liveNote(live.state, fitting.socket)
            }
          />
          <Choice label="Unit of lengths" options={lengthUnits} value={shown} choose={setLengthUnit} />
        </div>
        <CalibrationChart points={points} line={line} unit={shown} tolerance={tolerance} />
        <div className="mt-1 flex flex-col gap-2">
          {line ? (
            <>
              {judgeCalibration(line, shown).map((v) => (
                <FindingCard key={v.says} tone={v.mend ? 'risk' : 'done'} says={v.says} more={v.mend} />
              ))}
              {line.warnings.map((says) => (
                <FindingCard key={says} tone="risk" says={says} />
              ))}
              <p className="text-ink-2">
                reading = {formatNumber(line.slope, 3)} × ruler {line.intercept < 0 ? '−' : '+'}{' '}
                {formatNumber(Math.abs(line.intercept), 2)} {shown}
                {line.residualSd === null
                  ? ''
                  : ` · scatter about the line ${formatNumber(line.residualSd, 2)} ${shown}`}{' '}
                · worst {formatNumber(line.worst.residual, 1)} {shown} at{' '}
                {formatNumber(line.worst.truth, digits)} {shown}
                {line.usable
                  ? ` · usable from ${formatNumber(line.usable[0], digits)} to ${formatNumber(line.usable[1], digits)} ${shown} (green)`
                  : ' · no usable stretch yet'}
              </p>
            </>
          ) : (
            <p className="text-ink-2">{found.ok ? '' : `${found.says} ${found.mend}`}</p>
          )}
          <WorkingLink sheet="sound" numbers={{}}>
            What the temperature does to it
          </WorkingLink>
        </div>
      </Panel>
      <Panel
        title="At which distance?"
        className="max-lg:order-first"
        aside="from the sensor’s face, by ruler"
        footer={
          <>
            <Button main disabled={busy || !good || live.state !== 'live'} onClick={start}>
              {taking ? `${taking.length} of ${SAMPLES} …` : `Take ${SAMPLES} readings`}{' '}
              <kbd className="kbd">Space</kbd>
            </Button>
            {next}
          </>
        }
      >
        <Asked
          asked={asked}
          unit={shown}
          says={(mm) => formatNumber(convert(mm, 'mm', shown), digits)}
          choose={(mm) => setText(formatNumber(convert(mm, 'mm', shown), digits))}
        />
        <div className="mb-2 flex flex-wrap items-end gap-2">
          <NumberField
            label={`true distance, ${shown}`}
            value={text}
            change={setText}
            good={!(text !== '' && !good)}
            className="w-36"
          />
          {room ? (
            <Button
              icon={Hand}
              disabled={!good}
              onClick={() => void hand({ put: 'front', mm: Math.round(convert(truth, shown, 'mm')) })}
            >
              Put a wall there
            </Button>
          ) : null}
          {text !== '' && !good ? (
            <p className="w-full text-fault">
              A distance above 0, at most {formatNumber(convert(10_000, 'mm', shown), 0)} {shown}.
            </p>
          ) : null}
        </div>
        {rows.length === 0 ? (
          <p className="text-ink-2">
            Nothing read yet. Put a flat wall at three distances or more, near, middle and far, and type what
            the ruler says.
          </p>
        ) : (
          <table className="w-full">
            <TableHead columns={[`ruler, ${shown}`, `|reads, ${shown}`, '|scatter', '|n', '']} />
            <tbody>
              {rows.map(({ set, truth: at, s }) => (
                <tr key={set.id} className="h-12 border-t border-line-soft">
                  <th scope="row" className="text-left font-mono text-xl font-bold">
                    {formatNumber(into(at), digits)}
                  </th>
                  <td className="text-right font-mono text-xl">
                    {s.mean === null ? 'no reading' : formatFixed(into(s.mean), digits + 1)}
                  </td>
                  <td className="text-right font-mono">
                    {s.sd === null ? '–' : formatNumber(into(s.sd), 2)}
                  </td>
                  <td className="text-right font-mono">
                    {s.n}
                    {s.noReadings > 0 ? (
                      <span className="block text-sm text-ink-2">
                        {countOf(s.noReadings, 'look')} without
                      </span>
                    ) : null}
                  </td>
                  <td className="text-right">
                    <RemoveButton
                      title={`Remove the readings at ${formatNumber(into(at), digits)} ${shown}`}
                      onClick={() => void remove(set.id)}
                    />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Panel>
    </div>
  );
}
