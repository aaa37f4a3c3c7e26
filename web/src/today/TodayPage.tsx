import { Link } from 'react-router';
import { byUrgency, stageNames, type HelpCall, type Stage } from '@vigilum/core/classroom';
import { useToday } from '../data/queries.ts';
import type { BoardTeam, Period } from '@vigilum/contract/types';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { clock, useNow } from '../ui/time.ts';
import { tones, VerdictChip, VerdictMark, type Tone } from '../ui/verdict.tsx';
import { stageWords } from '../ui/stageWords.ts';

const stageLink = (team: number, lesson: string, stage: string) =>
  `/teams/${team}/lessons/${lesson}/${stage}`;

function Cell({ stage, team, lesson }: { stage: Stage; team: BoardTeam; lesson: string }) {
  const tone = stage.state;
  const { icon: Icon, chip, word } = tones[tone];
  const name = `${team.name}, ${stageWords[stage.stage]}: ${word}${stage.figure ? `, ${stage.figure}` : ''}`;
  return (
    <Link
      to={stageLink(team.id, lesson, stage.stage)}
      aria-label={name}
      title={stage.says || name}
      className={`flex h-full min-h-11 items-center justify-center gap-1 rounded-lg text-center text-[0.9375rem] font-semibold whitespace-nowrap hover:outline-2 hover:outline-sea ${chip}`}
    >
      <Icon size={15} strokeWidth={2.8} aria-hidden="true" className="shrink-0" />
      {stage.figure}
    </Link>
  );
}

/** What the teacher should know about a team, in few words. */
function whatToKnow(team: BoardTeam): { text: string; tone: Tone } {
  // The first sentence is enough here; the rest stands under “Go to next”.
  if (team.help) return { text: team.help.says.replace(/\. .*$/, '.'), tone: team.help.grade };
  const last = team.stages.at(-1)!;
  if (last.state === 'done') return { text: 'All seven stages done', tone: 'done' };
  return { text: `At ${stageWords[team.current]}`, tone: 'none' };
}

function Board({ period }: { period: Period }) {
  return (
    <div className="panel flex min-h-0 min-w-0 flex-1 flex-col p-3 pt-1.5">
      <div className="min-h-0 flex-1 overflow-auto">
        <table className="h-full w-full min-w-[46rem] table-fixed border-separate border-spacing-x-1 border-spacing-y-0">
          <caption className="sr-only">Where each team stands in {period.lesson.title}</caption>
          <thead>
            <tr className="h-9 text-ink-2">
              <th scope="col" className="w-[19%] pl-1 text-left font-semibold">
                team
              </th>
              {stageNames.map((stage) => (
                <th key={stage} scope="col" className="font-semibold">
                  {stageWords[stage]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {period.teams.map((team) => {
              const know = whatToKnow(team);
              return (
                <tr key={team.id} className="[&>*]:border-t [&>*]:border-line-soft">
                  <th scope="row" className="py-0.5 pr-1 pl-1 text-left align-middle">
                    <Link
                      to={stageLink(team.id, period.lesson.slug, team.current)}
                      className="group flex min-h-11 flex-col justify-center"
                    >
                      <span className="text-lg leading-tight font-bold group-hover:underline">
                        {team.name}
                      </span>
                      <span
                        className={`line-clamp-2 text-sm leading-tight font-normal ${tones[know.tone].text}`}
                        title={know.text}
                      >
                        {know.text}
                      </span>
                    </Link>
                  </th>
                  {team.stages.map((stage) => (
                    <td key={stage.stage} className="h-[1px] py-1">
                      <Cell stage={stage} team={team} lesson={period.lesson.slug} />
                    </td>
                  ))}
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
      <ul className="mt-2 flex flex-wrap gap-x-5 gap-y-1 border-t border-line-soft pt-2 text-ink-2">
        {(['done', 'now', 'risk', 'fault'] as const).map((tone) => (
          <li key={tone} className="flex items-center gap-1.5">
            <VerdictMark tone={tone} size={16} /> {tones[tone].word}
          </li>
        ))}
      </ul>
    </div>
  );
}

function GoNext({ period }: { period: Period }) {
  const calls = period.teams
    .filter((team): team is BoardTeam & { help: HelpCall } => team.help !== null)
    .sort((a, b) => byUrgency(a.help, b.help));
  return (
    <Panel
      title="Go to next"
      aside={calls.length > 0 ? 'in this order' : undefined}
      className="lg:w-[18.5rem] lg:shrink-0"
    >
      {calls.length === 0 ? (
        <Empty title="Nobody is stuck.">
          <p>Teams show up here as soon as something will not work.</p>
        </Empty>
      ) : (
        <ol className="flex flex-col divide-y divide-line-soft">
          {calls.map((team) => (
            <li key={team.id} className="py-2.5 first:pt-0">
              <Link to={stageLink(team.id, period.lesson.slug, team.help.stage)} className="group block">
                <span className="flex flex-wrap items-center gap-2">
                  <span className="text-lg font-bold group-hover:underline">{team.name}</span>
                  <VerdictChip tone={team.help.grade}>{stageWords[team.help.stage]}</VerdictChip>
                  <span className="ml-auto text-sm text-ink-2">
                    {team.help.quietMin === null
                      ? 'not begun'
                      : team.help.quietMin < 1
                        ? 'just now'
                        : `${team.help.quietMin} min`}
                  </span>
                </span>
                <span className="mt-0.5 block font-semibold">{team.help.says}</span>
                <span className="block text-ink-2">{team.help.mend}</span>
              </Link>
            </li>
          ))}
        </ol>
      )}
    </Panel>
  );
}

function PeriodView({ period, skew, alone }: { period: Period; skew: number; alone: boolean }) {
  const Heading = alone ? 'h1' : 'h2';
  const now = useNow() + skew;
  const left = period.startsAt + period.minutes * 60_000 - now;
  const done = (stage: string) =>
    period.teams.filter((t) => t.stages.find((s) => s.stage === stage)?.state === 'done').length;
  const settled =
    period.teams.length > 0 ? `${done('prove')} of ${period.teams.length} proved` : 'no team yet';
  return (
    <section className="flex min-h-0 flex-1 flex-col">
      <header className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <Heading className="text-title font-bold">
          {period.class.name} · {period.lesson.title}
        </Heading>
        <span className="text-ink-2">{period.class.school}</span>
        <span className="ml-auto flex flex-wrap items-center gap-2">
          <span className="rounded-full border border-line bg-sheet px-3.5 py-1.5">
            {left > 0 ? (
              <>
                <strong className="font-mono">{clock(left)}</strong> left of {period.minutes} min
              </>
            ) : left > -18 * 3600_000 ? (
              'period over'
            ) : (
              ''
            )}
          </span>
          <span className="rounded-full border border-line bg-sheet px-3.5 py-1.5">{settled}</span>
          <Link to="/start" className="btn btn-plain">
            Start a period
          </Link>
        </span>
      </header>
      <div className="flex min-h-0 flex-1 gap-4 max-lg:flex-col">
        <Board period={period} />
        <GoNext period={period} />
      </div>
    </section>
  );
}

/** The class at a glance: where each team stands, what came out of each stage, who needs help and why. */
export function TodayPage() {
  const today = useToday();
  if (today.isPending) return <Loading what="today" />;
  if (today.isError) return <Failed error={today.error} again={() => void today.refetch()} />;
  const skew = today.data.now - today.dataUpdatedAt;
  const { periods } = today.data;
  return (
    <main
      className={`flex flex-1 flex-col gap-8 px-6 py-3.5 max-sm:px-3 ${periods.length === 1 ? 'lg:h-dvh lg:min-h-[40rem] lg:flex-none' : ''}`}
    >
      {periods.length === 1 ? null : (
        <h1 className={periods.length === 0 ? 'sr-only' : 'text-title font-bold'}>Today</h1>
      )}
      {periods.length === 0 ? (
        <Empty title="No lesson today.">
          <p>Choose a class and start a lesson with it.</p>
          <Link to="/start" className="btn btn-primary">
            Start a period
          </Link>
        </Empty>
      ) : (
        periods.map((period) => (
          <PeriodView key={period.id} period={period} skew={skew} alone={periods.length === 1} />
        ))
      )}
    </main>
  );
}
