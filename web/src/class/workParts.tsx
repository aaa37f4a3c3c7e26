import {
  trialVerdict,
  type StoredSensor,
  type StoredTrial,
  type TeamEvidence,
} from '@vigilum/core/classroom';
import type { Lesson, LessonStep } from '@vigilum/core/lesson';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import { sensorWords, summaryOf } from '@vigilum/core/sensing';
import { whenOf } from '../hours/when.ts';
import { measuredWords } from '../stages/floor/measuredWords.ts';
import { TableHead } from '../ui/TableHead.tsx';
import { VerdictChip } from '../ui/verdict.tsx';

/** What was read off one sensor, and the threshold that came of it. */
export function Readings({ socket, sensor, unit }: { socket: string; sensor: StoredSensor; unit: string }) {
  const { sets, threshold, sweep, touch } = sensor;
  const recorded = [
    ...(sweep ? [`a sweep of ${countOf(sweep.of ?? sweep.values.length, 'reading')}`] : []),
    ...(touch ? [`a record of presses, ${countOf(touch.of ?? touch.values.length, 'reading')}`] : []),
  ];
  const kind = sets[0]?.kind;
  return (
    <div>
      <h3 className="font-bold">
        <span className="font-mono">{socket}</span>
        {kind ? `, ${sensorWords[kind]}` : ''}
      </h3>
      {sets.length > 0 ? (
        <table className="w-full">
          <TableHead
            columns={['surface', '|readings', `|mean${unit ? `, ${unit}` : ''}`, '|scatter', 'when']}
          />
          <tbody>
            {sets.map((set) => {
              const { n, mean, sd } = summaryOf(set);
              return (
                <tr key={set.id} className="border-t border-line-soft">
                  <th scope="row" className="py-1 pr-4 text-left">
                    {set.surface}
                  </th>
                  <td className="pr-4 text-right font-mono">{n}</td>
                  <td className="pr-4 text-right font-mono">{mean === null ? '' : formatNumber(mean)}</td>
                  <td className="pr-4 text-right font-mono">{sd === null ? '' : `± ${formatNumber(sd)}`}</td>
                  <td className="text-ink-2">{whenOf(set.at)}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      ) : null}
      {recorded.length > 0 ? <p>{recorded.join('; ')}</p> : null}
      {threshold ? (
        <p className="mt-1">
          threshold <strong className="font-mono">{formatNumber(threshold.value)}</strong> {unit},{' '}
          {threshold.method}
          {threshold.reason ? `: ${threshold.reason}` : ''}
        </p>
      ) : null}
    </div>
  );
}

const toneOfTrial = { kept: 'done', broken: 'fault', 'not judged': 'none' } as const;

export function Trials({ trials, lesson }: { trials: readonly StoredTrial[]; lesson: Lesson }) {
  return (
    <ol className="flex flex-col divide-y divide-line-soft">
      {trials.map((trial, i) => {
        const verdict = trialVerdict(trial);
        const { full, short } = measuredWords(trial, lesson);
        return (
          <li key={trial.id} className="flex flex-wrap items-center gap-x-3 py-1.5">
            <span className="font-mono font-bold">{i + 1}</span>
            <span className="mr-auto">{full || short}</span>
            {trial.note ? <span className="text-ink-2">{trial.note}</span> : null}
            <VerdictChip tone={toneOfTrial[verdict]}>{verdict}</VerdictChip>
          </li>
        );
      })}
    </ol>
  );
}

/** What a team wrote in its steps, in its own words. */
export function Written({
  steps,
  notes,
}: {
  steps: readonly Pick<LessonStep, 'id' | 'title'>[];
  notes: TeamEvidence['notes'];
}) {
  return (
    <dl className="flex flex-col gap-2">
      {steps.map(({ id, title }) => (
        <div key={id}>
          <dt className="text-ink-2">{title}</dt>
          <dd className="whitespace-pre-wrap">{notes[id]?.text}</dd>
        </div>
      ))}
    </dl>
  );
}

/** The unit in which the sensor on a socket was read. */
export function unitOn({ build, kit, sensors }: TeamEvidence, socket: string): string {
  const fitting = build.fittings.find((one) => one.socket === socket);
  const modes = kit.sensors.find(({ id }) => id === fitting?.sensorId)?.modes;
  return modes?.find(({ kind }) => kind === (sensors[socket]?.sets[0]?.kind ?? fitting?.mode))?.unit ?? '';
}

/** The sensors that a team read something off, by socket. */
export const sensorsRead = ({ sensors }: TeamEvidence): [string, StoredSensor][] =>
  Object.entries(sensors).filter(
    ([, { sets, threshold, sweep, touch }]) => sets.length > 0 || threshold || sweep || touch,
  );
