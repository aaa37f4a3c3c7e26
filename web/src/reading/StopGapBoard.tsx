import { useState } from 'react';
import type { StoredSet } from '@vigilum/core/classroom';
import { reactionOf, thresholdForGap, topSpeedMmPerS } from '@vigilum/core/motion';
import { convert, formatNumber, type Unit, typedNumber } from '@vigilum/core/quantity';
import { calibrate, errorNear, summarise, type Kit } from '@vigilum/core/sensing';
import { post } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import type { RobotThreshold } from '../data/types.ts';
import { Choice } from '../ui/Choice.tsx';
import { FindingCard } from '../ui/Finding.tsx';
import { lengthUnits, setLengthUnit, useLengthUnit } from '../ui/lengthUnit.ts';
import { Fact, Figure, Panel } from '../ui/Panel.tsx';
import { robotNumbers } from '../workings/robotNumbers.ts';
import { WorkingLink } from '../workings/WorkingLink.tsx';
import type { Reader } from './reader.ts';
import { NumberField } from '../ui/NumberField.tsx';

/** The threshold that leaves a wanted gap at a given speed, from this robot's own stopping distance and sensor error. */
export function StopGapBoard({
  reader,
  kit,
  sets,
  inUse,
}: {
  reader: Reader;
  kit: Kit;
  sets: readonly StoredSet[];
  inUse: RobotThreshold | null;
}) {
  const { robot, build, fitting, sensor } = reader;
  const own = sensor.unit as Unit;
  const shown = useLengthUnit();
  const digits = shown === 'mm' ? 0 : 1;
  const [gapText, setGapText] = useState(() => formatNumber(convert(15, 'cm', shown), 1));
  const [speedText, setSpeedText] = useState('30');
  const save = useChange((body: object) => post(`/robots/${robot.id}/thresholds`, body));
  const [gap, percent] = [typedNumber(gapText), typedNumber(speedText)];
  const gapGood = gap >= 0 && convert(gap, shown, 'mm') <= 5000;
  const speedGood = percent > 0 && percent <= 100;
  const points = sets.flatMap((set) => {
    const { mean, sd } = summarise(set.values);
    return set.truth === null || mean === null
      ? []
      : [
          {
            truth: convert(set.truth, own, 'mm'),
            reading: convert(mean, own, 'mm'),
            sd: convert(sd ?? 0, own, 'mm'),
          },
        ];
  });
  const found = calibrate(points, 10);
  const line = found.ok && found.value.residualSd !== null ? found.value : null;
  const speed = (topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm) * percent) / 100;
  const reaction = reactionOf(kit, sensor.samplePeriodMs);
  const stepMm = convert(sensor.step, own, 'mm');
  const gapMm = convert(gap, shown, 'mm');
  const errorMm = line && gapGood ? errorNear(line, points, gapMm) : null;
  const answer =
    gapGood && speedGood ? thresholdForGap(gapMm, speed, reaction, { errorMm: errorMm ?? 0, stepMm }) : null;
  // What the sensor itself will read where the ruler says the threshold, up to its next step.
  const exactMm = answer && (line ? line.slope * answer.thresholdMm + line.intercept : answer.thresholdMm);
  const value =
    exactMm === null
      ? null
      : Number((Math.ceil(convert(exactMm, 'mm', own) / sensor.step - 1e-9) * sensor.step).toFixed(4));
  const reading = value === null ? null : convert(value, own, 'mm');
  const show = (mm: number) => formatNumber(convert(mm, 'mm', shown), digits);
  const inRange = value !== null && value >= sensor.min && value <= sensor.max;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_27rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        title="Where must it stop looking ahead?"
        aside="so that the gap is kept even when the look comes late"
        footer={
          <>
            <button
              type="button"
              className="btn btn-primary"
              disabled={!inRange || save.isPending}
              onClick={() => save.mutate({ socket: fitting.socket, value, way: 'stop gap' })}
            >
              Use {value === null ? '–' : formatNumber(value)} {own} on {fitting.socket}
            </button>
            {inUse ? (
              <span className="text-ink-2">
                in use: {formatNumber(inUse.value)} {own} ({inUse.way})
              </span>
            ) : null}
          </>
        }
      >
        <div className="mb-4 flex flex-wrap items-end gap-4">
          <NumberField
            label={`wanted gap to the wall, ${shown}`}
            value={gapText}
            change={setGapText}
            good={gapGood}
            className="w-40"
          />
          <NumberField
            label="speed, % of full"
            value={speedText}
            change={setSpeedText}
            good={speedGood}
            className="w-32"
          />
          <Choice
            label="Unit of lengths"
            options={lengthUnits}
            value={shown}
            choose={(unit) => {
              if (gapGood) setGapText(formatNumber(convert(gap, shown, unit), unit === 'mm' ? 0 : 1));
              setLengthUnit(unit);
            }}
          />
        </div>
        {gapGood ? null : (
          <p className="text-fault">
            A gap from 0 to {formatNumber(convert(5000, 'mm', shown), 0)} {shown}.
          </p>
        )}
        {speedGood ? null : <p className="text-fault">A speed above 0, at most 100 %.</p>}
        {answer ? (
          <>
            <div className="flex flex-wrap items-end gap-x-10 gap-y-3">
              <Figure
                label="stop when it reads less than"
                value={show(reading!)}
                unit={shown}
                tone="text-signal"
              />
              <Fact
                label="it then rolls on"
                value={`${formatNumber(answer.stopping.leastMm, 0)}–${formatNumber(answer.stopping.mostMm, 0)}`}
                unit="mm"
                note={`at ${formatNumber(speed, 0)} mm/s`}
              />
              <Fact
                label="gap left"
                value={`${show(answer.leastGapMm)}–${show(answer.mostGapMm)}`}
                unit={shown}
                note="whenever the look comes"
              />
            </div>
            <dl className="mt-4 border-t border-line-soft pt-3" aria-label="Working">
              {(
                [
                  ['wanted gap', `${show(convert(gap, shown, 'mm'))} ${shown}`],
                  ['speed over the floor', `${formatNumber(speed, 0)} mm/s`],
                  [
                    'rolls on at worst: speed × (look + two steps + command + τ)',
                    `${formatNumber(speed, 0)} × ${formatNumber(1000 * (reaction.samplePeriodS + 2 * reaction.stepTimeS + reaction.commandDelayS + reaction.tauBrakeS), 0)} ms = ${formatNumber(answer.stopping.mostMm, 0)} mm`,
                  ],
                  [
                    'sensor’s error at worst',
                    errorMm === null ? 'not measured' : `${formatNumber(errorMm, 0)} mm`,
                  ],
                  ['half a step of its reading', `${formatNumber(stepMm / 2, 1)} mm`],
                  ['together', `${show(answer.thresholdMm)} ${shown} by ruler`],
                  ...(line
                    ? [
                        [
                          'as the sensor reads it',
                          `${formatNumber(line.slope, 3)} × ${show(answer.thresholdMm)} ${line.intercept < 0 ? '−' : '+'} ${show(Math.abs(line.intercept))} → ${show(reading!)} ${shown}`,
                        ],
                      ]
                    : []),
                ] as [string, string][]
              ).map(([label, worked]) => (
                <div key={label} className="flex flex-wrap justify-between gap-x-3 py-0.5">
                  <dt className="text-ink-2">{label}</dt>
                  <dd className="ml-auto font-mono">{worked}</dd>
                </div>
              ))}
            </dl>
          </>
        ) : null}
      </Panel>
      <Panel title="What it rests on">
        <div className="flex flex-col gap-3">
          {errorMm === null ? (
            <FindingCard
              tone="risk"
              says="The sensor was not read against the ruler."
              more="Read at three distances or more; until then its error counts as nothing."
            />
          ) : (
            <FindingCard
              tone="done"
              says={`Read at ${points.length} distances against the ruler.`}
              more="How far it stands off the line near this gap, and three times its scatter there, are put on top."
            />
          )}
          {value !== null && !inRange ? (
            <FindingCard
              tone="fault"
              says={`The sensor reads from ${formatNumber(sensor.min)} to ${formatNumber(sensor.max)} ${own} only.`}
              more="Choose another gap, or drive more slowly."
            />
          ) : null}
          {sensor.noReading !== undefined ? (
            <FindingCard
              tone="now"
              says={`${formatNumber(sensor.noReading)} is no distance.`}
              more="The kit gives it when nothing is heard, too near or too far. Vigilum shows it as no reading."
            />
          ) : null}
          <p className="text-ink-2">Half the speed halves the way it rolls on.</p>
          <WorkingLink
            sheet="gap"
            numbers={{
              ...robotNumbers({ kit, build }, { percent, socket: fitting.socket }),
              gap: gapMm,
              error: errorMm,
              rounding: stepMm,
            }}
          >
            Open the working
          </WorkingLink>
        </div>
      </Panel>
    </div>
  );
}
