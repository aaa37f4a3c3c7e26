import { useParams } from 'react-router';
import { stagesOf, withRecord } from '@vigilum/core/classroom';
import { stepsOf } from '@vigilum/core/lesson';
import { countOf } from '@vigilum/core/quantity';
import { useTeamThen } from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Panel } from '../ui/Panel.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { stageWords } from '../ui/stageWords.ts';
import { VerdictChip } from '../ui/verdict.tsx';
import { Readings, sensorsRead, Trials, unitOn, Written } from './workParts.tsx';

/** What one team left in one lesson hour, to be read: readings, threshold, script, proof, trials and notes. */
export default function TeamRecordPage() {
  const { hour = '', team = '' } = useParams();
  const query = useTeamThen(hour, team);
  if (query.isPending) return <Loading what="the record" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { hour: then, evidence } = query.data;
  const { record } = withRecord(evidence);
  const stages = stagesOf(record);
  const { lesson, script, proof, trials, notes, robot } = evidence;
  const written = stepsOf(lesson).filter(({ id }) => notes[id]?.text);
  const read = sensorsRead(evidence);
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
                <Readings key={socket} socket={socket} sensor={sensor} unit={unitOn(evidence, socket)} />
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
            <Written steps={written} notes={notes} />
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
