import { useQuery } from '@tanstack/react-query';
import { Download, Printer } from 'lucide-react';
import { useParams, useSearchParams } from 'react-router';
import { reportCsv, reportMarkdown, xapiStatements } from '@vigilum/core/formats';
import { countOf } from '@vigilum/core/quantity';
import type { ClassReport, LessonOfClass, TeamReport } from '@vigilum/core/year';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { useClasses } from '../data/queries.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Chart } from '../ui/Chart.tsx';
import { Panel } from '../ui/Panel.tsx';
import { saveFile } from '../ui/saveFile.ts';
import { isoDay } from '../ui/time.ts';
import { slugFor } from '../ui/slugFor.ts';
import { Failed, Loading } from '../ui/states.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { growthOption } from './reportOption.ts';
import { standingSigns } from './standingWords.ts';
import { uuidOf } from './uuidOf.ts';

const percent = (share: number): string => `${Math.round(100 * share)} %`;

const useReport = (klass: string, term: string) =>
  useQuery({
    enabled: klass !== '',
    queryKey: keys.report(klass, term),
    queryFn: () => api('GET /classes/:id/reports/:term', { id: klass, term }),
    staleTime: 0,
  });

/** A share of runs with its interval, as a bar. */
function Bar({ runs }: { runs: LessonOfClass['runs'] }) {
  if (!runs) return <span className="text-ink-2">nobody proved</span>;
  const x = (share: number) => 4 + 152 * share;
  const share = runs.passes / runs.of;
  return (
    <span className="flex items-center gap-2 whitespace-nowrap">
      <svg width="160" height="22" aria-hidden="true" className="shrink-0">
        <rect x="4" y="8" width="152" height="6" rx="3" fill="var(--line-soft)" />
        <rect
          x={x(runs.low)}
          y="8"
          width={Math.max(2, x(runs.high) - x(runs.low))}
          height="6"
          fill="var(--sea)"
          opacity="0.45"
        />
        <circle cx={x(share)} cy="11" r="5" fill="var(--sea)" />
      </svg>
      <span className="font-mono">
        {percent(share)}{' '}
        <span className="text-ink-2">
          {percent(runs.low)}–{percent(runs.high)}
        </span>
      </span>
    </span>
  );
}

/** Lessons of the class, and beside them what another class or another year came to in the same. */
function Lessons({ report, other }: { report: ClassReport; other: ClassReport | null }) {
  const theirs = new Map(other?.lessons.map((lesson) => [lesson.slug, lesson]));
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full">
        <TableHead
          columns={[
            'lesson',
            'day',
            '|teams that proved it',
            'runs passed, with 95 % interval',
            ...(other ? [other.class.name] : []),
          ]}
        />
        <tbody>
          {report.lessons.map((lesson) => {
            const same = theirs.get(lesson.slug);
            return (
              <tr key={lesson.slug} className="border-t border-line-soft">
                <th scope="row" className="py-1 pr-3 text-left">
                  {lesson.title}
                </th>
                <td className="pr-3 whitespace-nowrap text-ink-2">
                  {lesson.at === null ? '' : isoDay(lesson.at)}
                </td>
                <td className="pr-3 text-right font-mono whitespace-nowrap">
                  {lesson.proved} of {lesson.teams}
                </td>
                <td className="pr-3">
                  <Bar runs={lesson.runs} />
                </td>
                {other ? (
                  <td className="pr-3">
                    {same ? (
                      <span className="flex items-center gap-3 whitespace-nowrap">
                        <span className="font-mono">
                          {same.proved} of {same.teams}
                        </span>
                        <Bar runs={same.runs} />
                      </span>
                    ) : (
                      <span className="text-ink-2">has not had it</span>
                    )}
                  </td>
                ) : null}
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function Team({ report, team }: { report: ClassReport; team: TeamReport }) {
  const names = new Map(report.skills.map(({ id, name }) => [id, name]));
  const told = team.skills.filter(({ standing }) => standing !== 'cannot tell');
  return (
    <article className="break-inside-avoid border-t border-line py-3" aria-label={team.name}>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h3 className="text-lg font-bold">{team.name}</h3>
        {team.members.length > 0 ? <span className="text-ink-2">with {team.members.join(', ')}</span> : null}
        <Button
          icon={Download}
          className="ml-auto print:hidden"
          onClick={() =>
            saveFile(
              `${slugFor(team.name, 'team')}-${slugFor(report.span.name, 'report')}.md`,
              'text/markdown',
              reportMarkdown(report, isoDay, team.id),
            )
          }
        >
          Text
        </Button>
      </div>
      <div className="mt-1 grid grid-cols-1 gap-x-6 gap-y-2 md:grid-cols-2 print:grid-cols-2">
        <ul>
          {told.map(({ skill, standing, lastAt, reason }) => {
            const { sign, ink, word } = standingSigns[standing];
            return (
              <li key={skill}>
                <span className={`font-mono font-bold ${ink}`}>{sign}</span> {names.get(skill) ?? skill}:{' '}
                <span className="text-ink-2">
                  {word}
                  {lastAt === null ? '' : `, ${isoDay(lastAt)}`}
                  {reason === null ? '' : `; the teacher: ${reason}`}
                </span>
              </li>
            );
          })}
          {told.length === 0 ? <li className="text-ink-2">Nothing was tried in this time.</li> : null}
        </ul>
        <ul>
          {team.lessons.map(({ slug, title, at, proof, floor, predictions, wrote }) => (
            <li key={`${slug} ${at}`}>
              <b>{title}</b>{' '}
              <span className="text-ink-2">
                {at === null ? '' : `${isoDay(at)}: `}
                {proof ? `${proof.verdict}, ${proof.passes} of ${proof.runs} runs` : 'not proved'}
                {floor.of > 0 ? `; kept ${floor.kept} of ${floor.of} times on the floor` : ''}
                {predictions.of > 0
                  ? `; ${predictions.right} of ${countOf(predictions.of, 'prediction')} right`
                  : ''}
              </span>
              {wrote.map((text, i) => (
                <span key={i} className="block text-ink-2 italic">
                  “{text}”
                </span>
              ))}
            </li>
          ))}
        </ul>
      </div>
    </article>
  );
}

/** What a class did and has shown in a term: to read, to print, to take away. */
export default function ReportPage() {
  const { id = '' } = useParams();
  const [search, setSearch] = useSearchParams();
  const plan = useQuery({ queryKey: keys.plan, queryFn: () => api('GET /plan') });
  const classes = useClasses();
  const term = search.get('term') ?? 'all';
  const against = search.get('with') ?? '';
  const query = useReport(id, term);
  // Another year is another term: its class is compared over all its hours.
  const other = useReport(against, 'all').data ?? null;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  if (query.isPending) return <Loading what="the report" />;
  const report = query.data;
  const set = (key: string, value: string) =>
    setSearch((old) => {
      const next = new URLSearchParams(old);
      if (value === '') next.delete(key);
      else next.set(key, value);
      return next;
    });
  const file = slugFor(`${report.class.name} ${report.span.name}`, 'report');
  const save = (ending: string, type: string, text: string) => saveFile(`${file}.${ending}`, type, text);
  const teams = report.teams.filter(
    ({ lessons, skills }) => lessons.length > 0 || skills.some(({ standing }) => standing !== 'cannot tell'),
  );
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <span className="print:hidden">
          <BackLink to={`/classes/${id}`} title="Back to the class" />
        </span>
        <h1 className="text-title font-bold">
          {report.class.name}: {report.span.name}
        </h1>
        <span className="mr-auto text-ink-2">
          {report.class.school}
          {report.span.from > 0 ? `, ${isoDay(report.span.from)} to ${isoDay(report.span.to)}` : ''}
        </span>
        <span className="flex flex-wrap gap-2 print:hidden">
          <Button icon={Printer} onClick={() => window.print()}>
            Print
          </Button>
          <Button icon={Download} onClick={() => save('md', 'text/markdown', reportMarkdown(report, isoDay))}>
            Text
          </Button>
          <Button onClick={() => save('csv', 'text/csv', reportCsv(report, isoDay))}>CSV</Button>
          <Button onClick={() => save('json', 'application/json', JSON.stringify(report, null, 2))}>
            JSON
          </Button>
          <Button
            title="Statements for a learning record store"
            onClick={() =>
              save(
                'xapi.json',
                'application/json',
                JSON.stringify(
                  xapiStatements(report, location.origin, uuidOf, (at) => new Date(at).toISOString()),
                  null,
                  2,
                ),
              )
            }
          >
            xAPI
          </Button>
        </span>
      </header>
      <div className="flex flex-wrap gap-3 print:hidden">
        <Labelled beside label="time">
          <select className="input w-56" value={term} onChange={(event) => set('term', event.target.value)}>
            <option value="all">all hours</option>
            {(plan.data?.terms ?? []).map(({ id: one, name }) => (
              <option key={one} value={one}>
                {name}
              </option>
            ))}
          </select>
        </Labelled>
        <Labelled beside label="compare with">
          <select
            className="input w-56"
            value={against}
            onChange={(event) => set('with', event.target.value)}
          >
            <option value="">nobody</option>
            {(classes.data?.classes ?? [])
              .filter((one) => String(one.id) !== id)
              .map(({ id: one, name, archived }) => (
                <option key={one} value={one}>
                  {name}
                  {archived ? ', put away' : ''}
                </option>
              ))}
          </select>
        </Labelled>
      </div>
      {report.lessons.length === 0 ? (
        <Panel>
          <p className="text-ink-2">This class had no lesson hour in this time.</p>
        </Panel>
      ) : (
        <>
          <div
            className={`grid grid-cols-1 gap-3 ${other ? '' : 'xl:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]'}`}
          >
            <Panel title="Lessons" aside={countOf(report.lessons.length, 'lesson')}>
              <Lessons report={report} other={other} />
              <p className="pt-2 text-ink-2">
                {report.predictions.of === 0
                  ? 'Nobody wrote down a number before a run.'
                  : `${report.predictions.right} of ${countOf(report.predictions.of, 'prediction')} came true.`}
              </p>
            </Panel>
            <Panel title="Growth" aside="every team in every skill">
              {report.growth.length > 1 ? (
                <Chart
                  option={() => growthOption(report)}
                  redraw={[report]}
                  className="h-64 w-full"
                  label={`At the end ${report.growth.at(-1)!.seen} seen and ${report.growth.at(-1)!.shown} shown, of ${report.teams.length * report.skills.length}.`}
                />
              ) : (
                <p className="text-ink-2">Growth shows after a second day of work.</p>
              )}
            </Panel>
          </div>
          <Panel title="Teams" aside={countOf(teams.length, 'team')}>
            {teams.map((team) => (
              <Team key={team.id} report={report} team={team} />
            ))}
          </Panel>
        </>
      )}
    </main>
  );
}
