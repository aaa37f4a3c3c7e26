import { useState, type ReactNode } from 'react';
import {
  beyondLag,
  driveFitOf,
  fitRobot,
  meanLookS,
  measuresOfDrive,
  topSpeedMmPerS,
  usesMeasure,
  withoutMeasure,
  type Estimate,
  type Measure,
  type RobotFit,
  type RobotTrial,
} from '@vigilum/core/motion';
import { formatNumber, type Outcome } from '@vigilum/core/quantity';
import type { Braking, RobotDetail, RobotTrials } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange, useRobotTrials } from '../data/queries.ts';
import { useRemoval } from '../data/removal.ts';
import { robotChange } from '../reading/saves.ts';
import { Panel } from '../ui/Panel.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { ago, useNow } from '../ui/time.ts';
import { useRobotContext } from './RobotLayout.tsx';
import { TrialLogger, trialWords } from './TrialLogger.tsx';

/** The speed at which effects are told. */
const TOLD_PERCENT = 30;

const ms = (s: number) => 1000 * s;
const number = (value: number) => formatNumber(value, Math.abs(value) < 10 ? 2 : 0);

/** The ends of an interval, with so many digits that they differ. */
function interval(low: number, high: number): string {
  const digits = high - low >= 4 ? 0 : high - low >= 0.4 ? 1 : 2;
  return `${formatNumber(low, digits)} to ${formatNumber(high, digits)}`;
}

interface RowFacts {
  title: string;
  unit: string;
  estimate: Outcome<Estimate>;
  /** From the estimate's unit to the shown one. */
  shown: (value: number) => number;
  kitSays: string;
  /** What it changes, in the robot's own figures. */
  changes: (value: number) => string;
}

function rowsOf(fit: RobotFit, { kit, build }: RobotDetail): Record<Measure, RowFacts> {
  const top = topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm);
  const speed = ((fit.topMmPerS.ok ? fit.topMmPerS.value.value : top) * TOLD_PERCENT) / 100;
  const same = (value: number) => value;
  const tau = fit.tauBrakeS.ok ? fit.tauBrakeS.value.value : kit.drive.tauBrakeS;
  const limit = fit.accelLimitMmPerS2.ok ? fit.accelLimitMmPerS2.value.value : kit.drive.accelLimitMmPerS2;
  const stopAt = (afterS: number, percent: number) => {
    const v = (speed * percent) / TOLD_PERCENT;
    return number(v * afterS + beyondLag(v, tau, limit ?? Infinity));
  };
  return {
    speed: {
      title: 'Speed at 100 %',
      unit: 'mm/s',
      estimate: fit.topMmPerS,
      shown: same,
      kitSays: number(top),
      changes: (value) => `drive ${TOLD_PERCENT} % is ${number((value * TOLD_PERCENT) / 100)} mm/s`,
    },
    straight: {
      title: 'Left wheel faster by',
      unit: '%',
      estimate: fit.mismatch,
      shown: (value) => 100 * value,
      kitSays: '0',
      changes: (value) =>
        `after 1 m it stands ${number(Math.abs((value * 1e6) / (2 * build.trackMm)))} mm to the ${value > 0 ? 'right' : 'left'}`,
    },
    turns: {
      title: 'Track as it works',
      unit: 'mm',
      estimate: fit.trackMm,
      shown: same,
      kitSays: number(build.trackMm),
      changes: (value) => `turn right 90 deg turns ${formatNumber((90 * build.trackMm) / value)}°`,
    },
    'dead zone': {
      title: 'Least speed that moves it',
      unit: '%',
      estimate: fit.deadPercent,
      shown: same,
      kitSays: number(kit.drive.deadPercent ?? 0),
      changes: (value) => `told less than ${formatNumber(value)} %, it stands`,
    },
    stops: {
      title: 'Stands still after it sees',
      unit: 'ms',
      estimate: fit.stopsAfterS,
      shown: ms,
      kitSays: '',
      changes: (value) =>
        `stops ${stopAt(value, TOLD_PERCENT)} mm after it sees at ${TOLD_PERCENT} %, ${stopAt(value, 100)} mm at 100 %`,
    },
  };
}

function Beneath({ children }: { children: ReactNode }) {
  return (
    <tr>
      <td colSpan={5} className="pb-2 text-ink-2">
        {children}
      </td>
    </tr>
  );
}

/** Braking and delay apart, or why they cannot be told apart. */
function StopsApart({ fit }: { fit: RobotFit }) {
  const { tauBrakeS: tau, commandDelayS: delay, accelLimitMmPerS2: limit } = fit;
  if (!fit.stopsAfterS.ok) return null;
  const most = limit.ok
    ? `It brakes by ${number(limit.value.value)} mm/s in a second at most (${interval(limit.value.low, limit.value.high)}).`
    : `${limit.says} ${limit.mend}`;
  if (!tau.ok || !delay.ok) {
    const why = delay.ok ? tau : delay;
    return why.ok ? null : (
      <Beneath>
        {why.says} {why.mend} {most}
      </Beneath>
    );
  }
  const told = ({ value, low, high }: Estimate) => `${number(ms(value))} ms (${interval(ms(low), ms(high))})`;
  return (
    <Beneath>
      Of this, braking {told(tau.value)}, delay {told(delay.value)}. {most}
    </Beneath>
  );
}

function trialSays(trial: RobotTrial): string {
  switch (trial.kind) {
    case 'way': {
      const aside = trial.asideMm;
      const to =
        aside === null || aside === 0
          ? ''
          : `, ${number(Math.abs(aside))} mm to the ${aside > 0 ? 'right' : 'left'}`;
      return `${number(trial.speedPercent)} % for ${number(trial.seconds)} s: ${number(trial.wentMm)} mm${to}`;
    }
    case 'turn':
      return `asked ${number(trial.askedDeg)}°, turned ${number(trial.turnedDeg)}°`;
    case 'stop':
      return `${number(trial.speedPercent)} %: ${number(trial.pastMm)} mm past`;
    case 'creep':
      return `${number(trial.speedPercent)} %: ${trial.moved ? 'it moved' : 'it stood'}`;
  }
}

function Numbers({ detail, data }: { detail: RobotDetail; data: RobotTrials }) {
  const { kit, build } = detail;
  const save = useChange(
    (braking: Braking['braking']) => api('PUT /robots/:id/braking', { id: detail.id, body: { braking } }),
    (_, __, client) => [robotChange(client, detail.id, 'braking')],
  );
  const all = [...data.trials, ...data.stops].map(({ trial }) => trial);
  const given = {
    drive: kit.drive,
    stepTimeMs: kit.stepTimeMs,
    trackMm: build.trackMm,
    kitTopMmPerS: topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm),
  };
  const fit = fitRobot({ ...given, trials: all });
  const drives = driveFitOf(fit, { ...given, wheelDiameterMm: build.wheelDiameterMm, lookS: meanLookS(all) });
  const rows = rowsOf(fit, detail);
  const { braking } = data;
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full min-w-[40rem]">
        <thead className="text-left text-ink-2">
          <tr>
            <th scope="col" className="font-semibold">
              measured
            </th>
            <th scope="col" className="pl-3 text-right font-semibold">
              kit and build
            </th>
            <th scope="col" className="pl-3 text-right font-semibold">
              this robot
            </th>
            <th scope="col" className="pl-4 font-semibold">
              what it changes
            </th>
            <th scope="col" className="pl-3 font-semibold">
              the simulation uses
            </th>
          </tr>
        </thead>
        <tbody>
          {measuresOfDrive.map((measure) => {
            const { title, unit, estimate, shown, kitSays, changes } = rows[measure];
            const fitted = drives[measure];
            const used = usesMeasure(braking, measure);
            return (
              <tr key={measure} className="border-t border-line-soft align-top">
                <th scope="row" className="py-2 text-left font-bold">
                  {title}
                  <span className="block font-normal text-ink-2">
                    {estimate.ok ? `${estimate.value.trials} trials` : ''}
                  </span>
                </th>
                <td className="py-2 pl-3 text-right font-mono whitespace-nowrap text-ink-2">
                  {kitSays === '' ? '' : `${kitSays} ${unit}`}
                </td>
                <td className="py-2 pl-3 text-right font-mono whitespace-nowrap">
                  {estimate.ok ? (
                    <>
                      <strong className="text-lg">{number(shown(estimate.value.value))}</strong> {unit}
                      <span className="block text-ink-2">
                        {interval(shown(estimate.value.low), shown(estimate.value.high))}
                      </span>
                    </>
                  ) : (
                    '—'
                  )}
                </td>
                <td className="max-w-72 py-2 pl-4">
                  {estimate.ok ? changes(estimate.value.value) : `${estimate.says} ${estimate.mend}`}
                </td>
                <td className="py-1 pl-3">
                  <div className="flex flex-wrap gap-1.5">
                    {fitted ? (
                      <Button
                        disabled={save.isPending}
                        onClick={() => save.mutate({ ...braking, ...fitted })}
                      >
                        {used ? 'Use it anew' : 'Use it'}
                      </Button>
                    ) : null}
                    {used ? (
                      <Button
                        disabled={save.isPending}
                        onClick={() => save.mutate(withoutMeasure(braking, measure))}
                      >
                        Back to the kit’s
                      </Button>
                    ) : null}
                  </div>
                  <span className="text-ink-2">{used ? '✓ this robot’s own' : 'the kit’s'}</span>
                </td>
              </tr>
            );
          })}
          <StopsApart fit={fit} />
        </tbody>
      </table>
    </div>
  );
}

/** How one robot moves, measured by tape and protractor, and what the simulation takes of it. */
export default function MeasureView() {
  const { detail, skew } = useRobotContext();
  const query = useRobotTrials(detail.id);
  const now = useNow(15_000) + skew;
  const [all, setAll] = useState(false);
  const take = useRemoval('robot-trials', 'Trial removed.', () => [
    { what: 'robot', robot: detail.id, teams: [], part: 'trials' },
  ]);
  if (query.isPending) return <Loading what="the trials" />;
  if (!query.data) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { trials, stops } = query.data;
  const shown = all ? trials : trials.slice(0, 12);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[24rem_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
      <Panel title="Log a trial" aside="on the floor, not on the bench">
        <TrialLogger detail={detail} />
      </Panel>
      <div className="flex min-h-0 min-w-0 flex-col gap-4">
        <Panel title="How this robot moves" aside="from its trials, with 95 % intervals" className="shrink-0">
          <Numbers detail={detail} data={query.data} />
        </Panel>
        <Panel
          title="Trials"
          aside={`${trials.length} here${stops.length > 0 ? `, and ${stops.length} stops that were logged in lessons` : ''}`}
          className="min-h-40 flex-1"
        >
          {trials.length === 0 ? (
            <p className="text-ink-2">
              None yet. Five of each kind, at three settings, tell most numbers within a tenth.
            </p>
          ) : (
            <ul className="grid grid-cols-1 gap-x-6 sm:grid-cols-2">
              {shown.map(({ id, trial, at }) => (
                <li key={id} className="flex items-center gap-2 border-t border-line-soft">
                  <span className="min-w-0 flex-1">
                    <span className="font-bold">{trialWords[trial.kind]}</span> {trialSays(trial)}
                    <span className="text-ink-2">, {ago(at, now)}</span>
                  </span>
                  <RemoveButton
                    title={`Remove the ${trialWords[trial.kind]}, ${trialSays(trial)}`}
                    onClick={() => void take(id)}
                  />
                </li>
              ))}
            </ul>
          )}
          {trials.length > shown.length ? (
            <Button className="mt-2 self-start" onClick={() => setAll(true)}>
              Show all {trials.length}
            </Button>
          ) : null}
        </Panel>
      </div>
    </div>
  );
}
