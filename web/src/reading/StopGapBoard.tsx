import { useState, type ReactNode } from 'react';
import type { StoredSet } from '@vigilum/core/classroom';
import { lagWay, planStopGap, type StopGapPlan } from '@vigilum/core/motion';
import { convert, formatNumber, type Unit, typedNumber } from '@vigilum/core/quantity';
import type { Kit } from '@vigilum/core/sensing';
import { Button } from '../ui/Button.tsx';
import { Choice } from '../ui/Choice.tsx';
import { FindingCard } from '../ui/Finding.tsx';
import { lengthUnits, setLengthUnit, useLengthUnit, type LengthUnit } from '../ui/lengthUnit.ts';
import { Fact, Figure, Panel } from '../ui/Panel.tsx';
import { robotNumbers } from '../workings/robotNumbers.ts';
import { WorkingLink } from '../workings/WorkingLink.tsx';
import type { Reader } from './reader.ts';
import { NumberField } from '../ui/NumberField.tsx';
import { useSaveThreshold } from './saves.ts';

/** The threshold, what follows from it, and the calculation line by line. */
function Answer({
  plan,
  gapMm,
  own,
  shown,
}: {
  plan: StopGapPlan;
  gapMm: number;
  own: Unit;
  shown: LengthUnit;
}) {
  const show = (mm: number) => formatNumber(convert(mm, 'mm', shown), shown === 'mm' ? 0 : 1);
  const { reaction: r, line } = plan;
  const late = 1000 * (r.samplePeriodS + 2 * r.stepTimeS + r.commandDelayS);
  const braking = lagWay(plan.speedMmPerS, r.tauBrakeS, r.accelLimitMmPerS2);
  const speed = formatNumber(plan.speedMmPerS, 0);
  const reading = plan.value === null ? '–' : show(convert(plan.value, own, 'mm'));
  const working: [string, string][] = [
    ['wanted gap', `${show(gapMm)} ${shown}`],
    ...(Math.abs(plan.recessMm) < 0.5
      ? []
      : [
          [
            plan.recessMm > 0
              ? 'the sensor’s face sits behind the front by'
              : 'the sensor’s face stands out by',
            `${formatNumber(Math.abs(plan.recessMm), 0)} mm`,
          ] as [string, string],
        ]),
    ['speed over the floor', `${speed} mm/s`],
    [
      'rolls on at worst: speed × (look + two steps + command), and its braking',
      `${speed} × ${formatNumber(late, 0)} ms + ${formatNumber(braking, 0)} mm = ${formatNumber(plan.stopping.mostMm, 0)} mm`,
    ],
    [
      'sensor’s error at worst',
      plan.errorMm === null ? 'not measured' : `${formatNumber(plan.errorMm, 0)} mm`,
    ],
    ['half a step of its reading', `${formatNumber(plan.stepMm / 2, 1)} mm`],
    ['together', `${show(plan.thresholdMm)} ${shown} from the sensor’s face`],
  ];
  if (line && plan.value !== null)
    working.push([
      'as the sensor reads it',
      `${formatNumber(line.slope, 3)} × ${show(plan.thresholdMm)} ${line.intercept < 0 ? '−' : '+'} ${show(Math.abs(line.intercept))} → ${reading} ${shown}`,
    ]);
  return (
    <>
      <div className="flex flex-wrap items-end gap-x-10 gap-y-3">
        <Figure label="stop when it reads less than" value={reading} unit={shown} tone="text-signal" />
        <Fact
          label="it then rolls on"
          value={`${formatNumber(plan.stopping.leastMm, 0)}–${formatNumber(plan.stopping.mostMm, 0)}`}
          unit="mm"
          note={`at ${speed} mm/s`}
        />
        <Fact
          label="gap left"
          value={`${show(plan.leastGapMm)}–${show(plan.mostGapMm)}`}
          unit={shown}
          note="whenever the look comes"
        />
      </div>
      <dl className="mt-4 border-t border-line-soft pt-3" aria-label="Working">
        {working.map(([label, worked]) => (
          <div key={label} className="flex flex-wrap justify-between gap-x-3 py-0.5">
            <dt className="text-ink-2">{label}</dt>
            <dd className="ml-auto font-mono">{worked}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}

/** The threshold that leaves a wanted gap at a given speed, from this robot's own stopping distance and sensor error. */
export function StopGapBoard({
  reader,
  kit,
  sets,
  inUse,
  wanted = null,
  next,
}: {
  reader: Reader;
  kit: Kit;
  sets: readonly StoredSet[];
  inUse: { value: number; method: string } | null;
  /** What the lesson asks for, and the speed of the team’s script, where there are such. */
  wanted?: { gapMm: number | null; percent: number | null } | null;
  /** The way on, once a threshold is in use. */
  next?: ReactNode;
}) {
  const { robot, build, fitting, sensor } = reader;
  const own = sensor.unit as Unit;
  const shown = useLengthUnit();
  const [gapText, setGapText] = useState(() =>
    formatNumber(convert(wanted?.gapMm ?? 150, 'mm', shown), shown === 'mm' ? 0 : 1),
  );
  const [speedText, setSpeedText] = useState(() => formatNumber(wanted?.percent ?? 30));
  const save = useSaveThreshold(robot.id);
  const [gap, percent] = [typedNumber(gapText), typedNumber(speedText)];
  const gapGood = gap >= 0 && convert(gap, shown, 'mm') <= 5000;
  const speedGood = percent > 0 && percent <= 100;
  const gapMm = convert(gap, shown, 'mm');
  const plan =
    gapGood && speedGood ? planStopGap({ kit, build, sensor, fitting }, sets, gapMm, percent) : null;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_27rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        title="Where must it begin to stop?"
        aside="so that the gap is kept even when the look comes late"
        footer={
          <>
            <Button
              main
              disabled={!plan || plan.fault !== null || save.isPending}
              onClick={() =>
                plan &&
                plan.value !== null &&
                save.mutate({ socket: fitting.socket, value: plan.value, method: 'stop gap' })
              }
            >
              {!plan || plan.value === null
                ? `No threshold for ${fitting.socket}`
                : `Use ${formatNumber(plan.value)} ${own} on ${fitting.socket}`}
            </Button>
            {inUse ? (
              <span className="text-ink-2">
                in use: {formatNumber(inUse.value)} {own} ({inUse.method})
              </span>
            ) : null}
            {next}
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
        {plan ? <Answer plan={plan} gapMm={gapMm} own={own} shown={shown} /> : null}
      </Panel>
      <Panel title="What it rests on">
        <div className="flex flex-col gap-3">
          {!plan?.line ? (
            <FindingCard
              tone="risk"
              says="The sensor was not read against the ruler."
              more="Read at three distances or more; until then its error counts as nothing."
            />
          ) : (
            <FindingCard
              tone="done"
              says={`Read at ${plan.distances} distances against the ruler.`}
              more="How far it stands off the line near this gap, and three times its scatter there, are put on top."
            />
          )}
          {plan?.fault ? <FindingCard tone="fault" says={plan.fault.says} more={plan.fault.mend} /> : null}
          {plan?.beyond && !plan.fault ? (
            <FindingCard
              tone="risk"
              says={`No ruler was laid at ${formatNumber(convert(plan.thresholdMm, 'mm', shown), shown === 'mm' ? 0 : 1)} ${shown}.`}
              more="That lies outside what was read. Read there too: a sensor may bend off its line."
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
              recess: plan?.recessMm ?? null,
              error: plan?.errorMm ?? null,
              rounding: plan?.stepMm ?? null,
            }}
          >
            Open the working
          </WorkingLink>
        </div>
      </Panel>
    </div>
  );
}
