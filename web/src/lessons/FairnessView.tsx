import { Ban, Scale } from 'lucide-react';
import { useMemo } from 'react';
import { Link, useParams } from 'react-router';
import { sentence } from '@vigilum/core/expect';
import { fairnessOf, type FairnessReport, type KnownRobot, type Lesson } from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { Button } from '../ui/Button.tsx';
import type { Decided } from '../builder/ChecksView.tsx';
import { Figure, Panel } from '../ui/Panel.tsx';
import { Empty } from '../ui/states.tsx';
import { useKey } from '../ui/useKey.ts';
import { VerdictMark, type Tone } from '../ui/verdict.tsx';
import type { Job } from '../workers/simulation.ts';
import { useBench } from './LessonLayout.tsx';
import { useReports } from './useReports.ts';
import { modelKnown } from './useSubject.ts';

const toneOf = ({ verdict, right }: FairnessReport): Tone =>
  verdict === 'proved' ? 'done' : right ? 'fault' : 'risk';

/** Judges every other right answer in all workers at once; reports come as they are made. */
const useFairness = () =>
  useReports<FairnessReport, Job>(
    (worker, job, part) => worker.beginFairness(job, part),
    (worker) => worker.moreFairness(),
  );

function Row({ lesson, report }: { lesson: Lesson; report: FairnessReport }) {
  const { slug } = useParams();
  const index = lesson.rightToo?.findIndex(({ name }) => name === report.name) ?? -1;
  return (
    <tr className="border-t border-line-soft align-top">
      <td className="py-1.5 pr-3 whitespace-nowrap">
        <span className="inline-flex items-center gap-1.5">
          <VerdictMark tone={toneOf(report)} />{' '}
          {report.verdict === 'proved' ? 'accepted' : report.right ? 'refused' : 'refused: yours to decide'}
        </span>
      </td>
      <td className="py-1.5 pr-3">
        {report.right && index >= 0 ? (
          <Link
            className="inline-block min-h-11 content-center font-semibold text-sea underline"
            to={`/lessons/${slug}/prove?script=right-${index}`}
          >
            {report.name}
          </Link>
        ) : (
          report.name
        )}
        {report.refusedBy.map(({ expectation, runs, says }) => (
          <span key={expectation} className="block text-ink-2">
            {sentence(lesson.expectations[expectation]!, lesson.course)}: refuses it in {runs} of{' '}
            {report.runs}; {says}
          </span>
        ))}
        {report.right ? null : (
          <Link
            className="block min-h-11 w-fit content-center font-semibold text-sea underline"
            to={`/lessons/${slug}/build/checks`}
            state={{ keep: { name: report.name.slice(0, 120), script: report.text } } satisfies Decided}
          >
            It is right: keep it in the lesson
          </Link>
        )}
      </td>
      <td className="py-1.5 text-right font-mono whitespace-nowrap">
        {report.passes}/{report.runs}
      </td>
    </tr>
  );
}

function Report({ lesson, known }: { lesson: Lesson; known: KnownRobot }) {
  const { reports, of, going, begin, cancel } = useFairness();
  const fairness = useMemo(() => fairnessOf(reports), [reports]);
  const job = useMemo<Job>(() => ({ lesson, known, text: lesson.modelScript }), [lesson, known]);
  const start = () => (going ? undefined : void begin(job));
  useKey('f', start);
  const rows = [...reports].sort(
    (a, b) =>
      Number(a.verdict === 'proved') - Number(b.verdict === 'proved') || Number(b.right) - Number(a.right),
  );
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_23.5rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        scrolls
        title="Other answers that are right"
        aside={of > 0 ? `${reports.length} of ${of} judged` : undefined}
      >
        {reports.length === 0 ? (
          <p className="text-ink-2">
            {going
              ? 'The first one is being judged …'
              : 'The lesson keeps answers that are right though they are not the model’s, and some more are made from it: mirrored, slower, faster, more patient, in other words. The checks should let every right one pass.'}
          </p>
        ) : (
          <table className="w-full">
            <thead className="text-left text-ink-2">
              <tr>
                <th scope="col" className="font-semibold">
                  outcome
                </th>
                <th scope="col" className="font-semibold">
                  what it does, and which sentence refuses it
                </th>
                <th scope="col" className="text-right font-semibold whitespace-nowrap">
                  runs kept
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((report) => (
                <Row key={report.name} lesson={lesson} report={report} />
              ))}
            </tbody>
          </table>
        )}
      </Panel>
      <Panel
        scrolls
        title="How fair are the checks?"
        footer={
          going ? (
            <Button icon={Ban} key="cancel" onClick={cancel}>
              Cancel at {reports.length} of {of || '…'}
            </Button>
          ) : (
            <Button main icon={Scale} key="begin" onClick={start}>
              Judge them all <kbd className="kbd">F</kbd>
            </Button>
          )
        }
      >
        <Figure
          label="right answers accepted"
          value={fairness.share === null ? '–' : formatNumber(100 * fairness.share, 0)}
          unit={fairness.share === null ? '' : '%'}
        />
        <p className="mt-2">
          {fairness.accepted} accepted, {fairness.refused} refused
          <span className="text-ink-2"> of those that the lesson calls right.</span>
        </p>
        <p className="mt-3 text-ink-2">
          Where a sentence refuses a right answer: widen it, tell its limit to the team, or take it out. What
          was made from the model answer may be wrong in this lesson; whether it is, you decide.
        </p>
      </Panel>
    </div>
  );
}

/** Fairness of checks: which right answers would the lesson's expectations refuse? */
export default function FairnessView() {
  const { lesson, kit } = useBench();
  const known = useMemo(() => modelKnown(lesson, kit), [lesson, kit]);
  return known ? (
    <Report lesson={lesson} known={known} />
  ) : (
    <Panel className="flex-1">
      <Empty title="The lesson names no robot to judge them on." />
    </Panel>
  );
}
