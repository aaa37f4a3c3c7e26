import { useParams } from 'react-router';
import { stagesOf, trialVerdict, withRecord, type StoredSensor } from '@vigilum/core/classroom';
import { stepsOf, type Lesson } from '@vigilum/core/lesson';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import { sensorWords, summaryOf } from '@vigilum/core/sensing';
import type { StoredTrial } from '@vigilum/core/classroom';
import { useTeamThen } from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { measuredWords } from '../stages/floor/measuredWords.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { stageWords } from '../ui/stageWords.ts';
import { TableHead } from '../ui/TableHead.tsx';
import { VerdictChip } from '../ui/verdict.tsx';

/** What was read off one sensor, and the threshold that came of it. */
function Readings({ socket, sensor, unit }: { socket: string; sensor: StoredSensor; unit: string }) {
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

function Trials({ trials, lesson }: { trials: readonly StoredTrial[]; lesson: Lesson }) {
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

/** What one team left in one lesson hour, to be read: readings, threshold, script, proof, trials and notes. */
export default function TeamRecordPage() {
  const { hour = '', team = '' } = useParams();
  const query = useTeamThen(hour, team);
  if (query.isPending) return <Loading what="the record" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { hour: then, evidence } = query.data;
  const { record } = withRecord(evidence);
  const stages = stagesOf(record);
  const { lesson, script, proof, trials, notes, sensors, robot, kit, build } = evidence;
  const unitOn = (socket: string): string => {
    const fitting = build.fittings.find((one) => one.socket === socket);
    const modes = kit.sensors.find(({ id }) => id === fitting?.sensorId)?.modes;
    return modes?.find(({ kind }) => kind === (sensors[socket]?.sets[0]?.kind ?? fitting?.mode))?.unit ?? '';
  };
  const written = stepsOf(lesson).filter(({ id }) => notes[id]?.text);
  const read = Object.entries(sensors).filter(
    ([, { sets, threshold, sweep, touch }]) => sets.length > 0 || threshold || sweep || touch,
  );
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-1">
        <BackLink to={`/hours/${then.id}`} title="Back to the board of the hour" />
        <h1 className="text-title font-bold">
          {evidence.team.name} · {then.lesson.title}
        </h1>
        <span className="text-ink-2">
          {then.class.name}, {whenOf(then.startsAt)}, robot {robot.name}
        </span>
      </header>
      <ul aria-label="Stages" className="flex flex-wrap gap-x-4 gap-y-2">
        {stages.map(({ stage, state, figure }) => (
          <li key={stage} className="flex items-center gap-1.5">
            <span>{stageWords[stage]}</span>
            <VerdictChip tone={state}>{figure || '–'}</VerdictChip>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-2">
        <div className="flex min-w-0 flex-col gap-4">
          <Panel title="Read and decided">
            {read.length === 0 ? <p className="text-ink-2">Nothing was read.</p> : null}
            <div className="flex flex-col gap-4">
              {read.map(([socket, sensor]) => (
                <Readings key={socket} socket={socket} sensor={sensor} unit={unitOn(socket)} />
              ))}
            </div>
          </Panel>
          <Panel title="On the floor" aside={trials.length > 0 ? countOf(trials.length, 'trial') : undefined}>
            {trials.length === 0 ? (
              <p className="text-ink-2">No trial was logged.</p>
            ) : (
              <Trials trials={trials} lesson={lesson} />
            )}
          </Panel>
          <Panel title="Written down">
            {written.length === 0 ? <p className="text-ink-2">Nothing was written down.</p> : null}
            <dl className="flex flex-col gap-2">
              {written.map(({ id, title }) => (
                <div key={id}>
                  <dt className="text-ink-2">{title}</dt>
                  <dd className="whitespace-pre-wrap">{notes[id]!.text}</dd>
                </div>
              ))}
            </dl>
          </Panel>
        </div>
        <Panel
          title="Script"
          aside={
            script
              ? `version ${script.version}${proof ? `; proof of version ${proof.scriptVersion}: ${proof.proof.passes} of ${proof.proof.runs} runs, ${proof.proof.verdict}` : ''}`
              : undefined
          }
        >
          {script ? (
            <pre
              tabIndex={0}
              aria-label="The script as it was left"
              className="overflow-x-auto rounded-lg border border-line bg-paper p-3 font-mono leading-7"
            >
              {script.text}
            </pre>
          ) : (
            <p className="text-ink-2">No script was saved.</p>
          )}
        </Panel>
      </div>
    </main>
  );
}
