import { Link, Navigate, useParams } from 'react-router';
import { writeCsv } from '@vigilum/core/formats';
import { countOf, formatNumber } from '@vigilum/core/quantity';
import { LinkButton } from '../ui/Button.tsx';
import { useClassThresholds, useToday } from '../data/queries.ts';
import type { ClassThresholds } from '@vigilum/contract/types';
import { perThousand } from '../ui/perThousand.ts';
import { saveFile } from '../ui/saveFile.ts';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { ago, useNow } from '../ui/time.ts';
import { VerdictMark } from '../ui/verdict.tsx';
import { clockAt, NoTeam, PeriodHead } from './PeriodHead.tsx';

function save({ table, school, class: name, lesson }: ClassThresholds): void {
  const { unit, lowName, highName } = table;
  const csv = writeCsv([
    [
      'team',
      'robot',
      `${lowName || 'low'}, ${unit}`,
      `${highName || 'high'}, ${unit}`,
      `threshold, ${unit}`,
      `leave, ${unit}`,
      'method',
      'misreads in 1000',
      'light shift survived, points',
      'd prime',
      'read at',
      'remarks',
    ],
    ...table.rows.map((row) => [
      row.team,
      row.robot,
      row.low,
      row.high,
      row.value,
      row.leave,
      row.method,
      row.misreads,
      row.lightShift,
      row.apart,
      row.readAt === null ? null : new Date(row.readAt).toISOString(),
      row.remarks.map(({ says }) => says).join('; '),
    ]),
  ]);
  saveFile(`${school} ${name} ${lesson.title} thresholds.csv`.replaceAll(' ', '-'), 'text/csv', csv);
}

/** Level, change or pair as it is typed. */
const shown = ({
  value,
  leave,
  method,
}: {
  value: number | null;
  leave: number | null;
  method: string;
}): string =>
  leave === null
    ? `${method === 'change by' ? '±' : ''}${formatNumber(value)}`
    : `${formatNumber(value)} | ${formatNumber(leave)}`;

/** A small scale: both surfaces and the threshold between them, the class's middle as a tick. */
function Scale({
  low,
  high,
  value,
  median,
}: {
  low: number;
  high: number;
  value: number | null;
  median: number | null;
}) {
  const [w, x] = [180, (v: number) => 4 + (v / 100) * 172];
  return (
    <svg viewBox={`0 0 ${w} 30`} className="h-7 w-44" aria-hidden="true">
      <path d={`M4 15H176`} stroke="var(--line)" strokeWidth="2" />
      <circle cx={x(low)} cy="15" r="5" fill="var(--ink)" />
      <circle cx={x(high)} cy="15" r="5" fill="var(--brass)" />
      {median === null ? null : <path d={`M${x(median)} 10V20`} stroke="var(--edge)" strokeWidth="2" />}
      {value === null ? null : <path d={`M${x(value)} 3V27`} stroke="var(--signal)" strokeWidth="3" />}
    </svg>
  );
}

/** Without a period in the path: the one of now. */
export function ClassNow() {
  const today = useToday();
  if (today.isPending) return <Loading what="the class" />;
  if (today.isError) return <Failed error={today.error} again={() => void today.refetch()} />;
  const now = today.data.now;
  const period =
    today.data.periods.findLast(({ startsAt }) => startsAt <= now) ??
    today.data.periods[0] ??
    today.data.past[0];
  if (period) return <Navigate to={`/class/${period.id}`} replace />;
  return (
    <main className="flex flex-1 flex-col px-6 py-3.5">
      <h1 className="text-title font-bold">Class</h1>
      <Empty title="No lesson today.">
        <p>Thresholds of a class stand here side by side once a lesson has begun.</p>
        <LinkButton main to="/start">
          Start a lesson hour
        </LinkButton>
      </Empty>
    </main>
  );
}

/** The thresholds of a class in one table: who differs, whose surfaces are poor, whose readings are stale. */
export default function ThresholdsPage() {
  const { period = '' } = useParams();
  const query = useClassThresholds(period);
  const clock = useNow(15_000);
  if (query.isPending) return <Loading what="the thresholds" />;
  if (!query.data) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { data } = query;
  const { table, lesson, need } = data;
  const now = clock + data.now - query.dataUpdatedAt;
  const decided = table.rows.filter(({ value }) => value !== null).length;
  const faults = table.rows.filter(({ remarks }) => remarks.some(({ grade }) => grade === 'fault')).length;
  const head = 'py-1.5 pr-4 font-semibold';
  const ranged = need.kind === 'light' || need.kind === 'ambient' || need.kind === 'proximity';
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <PeriodHead
        title={`${data.class} · thresholds for ${lesson.title}`}
        aside={`${decided} of ${table.rows.length} decided${
          table.median === null ? '' : `, the middle one ${formatNumber(table.median)} ${table.unit}`
        }${faults > 0 ? `, ${countOf(faults, 'team')} to see to` : ''}`}
        save={() => save(data)}
      />
      {table.rows.length === 0 ? (
        <NoTeam />
      ) : (
        <Panel className="overflow-x-auto print:border-0 print:p-0">
          <table className="w-full">
            <thead className="text-left text-ink-2">
              <tr className="align-bottom">
                <th scope="col" className={head}>
                  team
                </th>
                {table.lowName ? (
                  <>
                    <th scope="col" className={`${head} text-right`}>
                      {table.lowName}, {table.unit}
                    </th>
                    <th scope="col" className={`${head} text-right`}>
                      {table.highName}, {table.unit}
                    </th>
                  </>
                ) : null}
                <th scope="col" className={`${head} text-right`}>
                  threshold, {table.unit}
                </th>
                {ranged ? (
                  <th scope="col" className={`${head} print:hidden`}>
                    0 to 100 %, middle of the class as a tick
                  </th>
                ) : null}
                <th scope="col" className={head}>
                  way
                </th>
                <th scope="col" className={`${head} text-right`}>
                  misreads in 1000
                </th>
                <th scope="col" className={`${head} text-right`}>
                  light shift survived
                </th>
                <th scope="col" className={head}>
                  read
                </th>
                <th scope="col" className={head}>
                  remarks
                </th>
              </tr>
            </thead>
            <tbody>
              {table.rows.map((row, i) => (
                <tr key={row.team} className="h-14 border-t border-line-soft">
                  <th scope="row" className="pr-4 text-left">
                    <Link
                      to={`/teams/${data.teams[i]}/lessons/${lesson.slug}/decide`}
                      className="block min-h-11 content-center text-lg font-bold hover:underline"
                    >
                      {row.team}
                      <span className="block text-sm font-normal text-ink-2">{row.robot}</span>
                    </Link>
                  </th>
                  {table.lowName ? (
                    <>
                      <td className="pr-4 text-right font-mono">{formatNumber(row.low)}</td>
                      <td className="pr-4 text-right font-mono">{formatNumber(row.high)}</td>
                    </>
                  ) : null}
                  <td className="pr-4 text-right font-mono text-2xl font-bold text-signal">
                    {row.value === null ? <span className="text-ink-2">–</span> : shown(row)}
                  </td>
                  {ranged ? (
                    <td className="pr-4 print:hidden">
                      {row.low === null || row.high === null ? null : (
                        <Scale
                          low={row.low}
                          high={row.high}
                          value={row.method === 'change by' ? null : row.value}
                          median={table.median}
                        />
                      )}
                    </td>
                  ) : null}
                  <td className="pr-4">{row.method || <span className="text-ink-2">not decided</span>}</td>
                  <td className="pr-4 text-right font-mono">
                    {row.misreads === null ? '–' : perThousand(row.misreads)}
                  </td>
                  <td className="pr-4 text-right font-mono">{formatNumber(row.lightShift)}</td>
                  <td className="pr-4 whitespace-nowrap">
                    {row.readAt === null ? (
                      <span className="text-ink-2">not yet</span>
                    ) : (
                      <>
                        <span className="print:hidden">{ago(row.readAt, now)}</span>
                        <span className="hidden print:inline">{clockAt(row.readAt)}</span>
                      </>
                    )}
                  </td>
                  <td>
                    {row.remarks.map(({ grade, says }) => (
                      <span key={says} className="flex items-center gap-1.5">
                        <VerdictMark tone={grade} size={16} /> {says}
                      </span>
                    ))}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </Panel>
      )}
      <p className="text-ink-2">
        Someone else’s number is no good: each is of that team’s own robot, floor and light. A remark “from
        the class’s middle” is a reason to look, not a fault.
      </p>
    </main>
  );
}
