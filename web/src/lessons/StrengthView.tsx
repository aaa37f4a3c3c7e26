import { Ban, ShieldCheck } from 'lucide-react';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { sentence } from '@vigilum/core/expect';
import { breakName, strengthOf, type FaultReport, type Lesson } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { Button } from '../ui/Button.tsx';
import type { Decided } from '../builder/ChecksView.tsx';
import { Figure, Panel } from '../ui/Panel.tsx';
import { useKey } from '../ui/useKey.ts';
import { VerdictMark, type Tone } from '../ui/verdict.tsx';
import type { Job } from '../workers/simulation.ts';
import { useBench } from './LessonLayout.tsx';
import { useReports } from './useReports.ts';
import { WithSubject } from './WithSubject.tsx';

const tones: Record<FaultReport['outcome'], Tone> = {
  caught: 'done',
  missed: 'fault',
  equivalent: 'none',
  'right too': 'done',
};
const words: Record<FaultReport['outcome'], string> = {
  caught: 'caught',
  missed: 'missed',
  equivalent: 'looks the same',
  'right too': 'right too',
};
const order = { missed: 0, equivalent: 1, 'right too': 2, caught: 3 };

/** Breaks a script in the usual ways in all workers at once; reports come as they are made. */
const useStrength = () =>
  useReports<FaultReport, Job>(
    (worker, job, part) => worker.beginStrength(job, part),
    (worker) => worker.moreStrength(),
  );

function Report({ lesson, job }: { lesson: Lesson; job: Job }) {
  const { reports, of, going, begin, cancel } = useStrength();
  const strength = useMemo(() => strengthOf(lesson, reports), [lesson, reports]);
  const start = () => (going ? undefined : void begin(job));
  useKey('b', start);
  const rows = [...reports].sort(
    (a, b) => order[a.outcome] - order[b.outcome] || a.fault.line - b.fault.line,
  );
  const share = strength.share;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_23.5rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        scrolls
        title="The script, broken in the usual ways"
        aside={of > 0 ? `${reports.length} of ${of} faults looked at` : undefined}
      >
        {reports.length === 0 ? (
          <p className="text-ink-2">
            {going
              ? 'The first fault is being looked at …'
              : 'Each usual fault is put into the script, one at a time, and run over the lesson’s conditions. The expectations should catch every one that behaves differently.'}
          </p>
        ) : (
          <table className="w-full">
            <thead className="text-left text-ink-2">
              <tr>
                <th scope="col" className="font-semibold">
                  outcome
                </th>
                <th scope="col" className="pr-3 font-semibold">
                  line
                </th>
                <th scope="col" className="font-semibold">
                  what was done to it
                </th>
                <th scope="col" className="text-right font-semibold whitespace-nowrap">
                  runs kept
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map(({ fault, outcome, passes, runs, by }) => (
                <tr key={`${fault.line}${fault.text}`} className="border-t border-line-soft align-top">
                  <td className="py-1.5 pr-3 whitespace-nowrap">
                    <span className="inline-flex items-center gap-1.5">
                      <VerdictMark tone={tones[outcome]} /> {words[outcome]}
                    </span>
                  </td>
                  <td className="py-1.5 pr-3 font-mono">{fault.line}</td>
                  <td className="py-1.5 pr-3">
                    {fault.name}
                    {by.length > 0 ? (
                      <span className="block text-ink-2">
                        noticed by: {sentence(lesson.expectations[by[0]!]!, lesson.course)}
                        {by.length > 1 ? ` and ${by.length - 1} more` : ''}
                      </span>
                    ) : null}
                    {outcome === 'missed' && job.text === lesson.modelScript ? (
                      <Link
                        className="block min-h-11 w-fit content-center font-semibold text-sea underline"
                        to={`/lessons/${lesson.slug}/build/checks`}
                        state={{ accept: breakName(fault) } satisfies Decided}
                      >
                        It is right as well
                      </Link>
                    ) : null}
                  </td>
                  <td className="py-1.5 text-right font-mono">
                    {passes}/{runs}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </Panel>
      <Panel
        scrolls
        title="How strong are the checks?"
        footer={
          going ? (
            <Button icon={Ban} key="cancel" onClick={cancel}>
              Cancel at {reports.length} of {of || '…'}
            </Button>
          ) : (
            <Button main icon={ShieldCheck} key="begin" onClick={start}>
              Break it and look <kbd className="kbd">B</kbd>
            </Button>
          )
        }
      >
        <Figure
          label="faults caught, of those that behave differently"
          value={share === null ? '–' : formatNumber(100 * share, 0)}
          unit={share === null ? '' : '%'}
        />
        <p className="mt-2">
          {strength.caught} caught, {strength.missed} missed
          {strength.rightToo > 0 ? `, ${strength.rightToo} right as well` : ''}
          <span className="text-ink-2">, {strength.equivalent} that no run tells apart from the script.</span>
        </p>
        {reports.length > 0 ? (
          <>
            <h3 className="mt-4 mb-1 font-bold">Which expectation notices how many</h3>
            <ul className="flex flex-col gap-1.5">
              {lesson.expectations.map((expectation, i) => (
                <li key={i} className="border-l-4 border-l-signal pl-3">
                  {sentence(expectation, lesson.course)}
                  <span className="block text-ink-2">
                    {strength.each[i]!.noticed} noticed
                    {strength.each[i]!.alone > 0 ? `, ${strength.each[i]!.alone} by it alone` : ''}
                  </span>
                </li>
              ))}
            </ul>
          </>
        ) : null}
      </Panel>
    </div>
  );
}

/** Strength of checks: which of the usual faults would the lesson's expectations let pass? */
export default function StrengthView() {
  const bench = useBench();
  return (
    <WithSubject bench={bench}>
      {({ id, text, known, lesson }) => <Report key={id} lesson={lesson} job={{ lesson, known, text }} />}
    </WithSubject>
  );
}
