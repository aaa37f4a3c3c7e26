import { Link } from 'react-router';
import { byUrgency, stageNames, type HelpCall, type Stage } from '@vigilum/core/classroom';
import type { BoardTeam, Period } from '@vigilum/contract/types';
import { Panel } from '../ui/Panel.tsx';
import { Empty } from '../ui/states.tsx';
import { tones, VerdictChip, VerdictMark, type Tone } from '../ui/verdict.tsx';
import { stageWords } from '../ui/stageWords.ts';

/** Where a cell of a board leads: to the team’s page, or to what it left where its pages hold something else by now. */
const linkIn = (period: Period) => (team: number, stage: string) =>
  period.current
    ? `/teams/${team}/lessons/${period.lesson.slug}/${stage}`
    : `/hours/${period.id}/teams/${team}`;
type LinkTo = ReturnType<typeof linkIn>;

function Cell({ stage, team, link }: { stage: Stage; team: BoardTeam; link: LinkTo }) {
  const tone = stage.state;
  const { icon: Icon, chip, word } = tones[tone];
  const name = `${team.name}, ${stageWords[stage.stage]}: ${word}${stage.figure ? `, ${stage.figure}` : ''}`;
  return (
    <Link
      to={link(team.id, stage.stage)}
      aria-label={name}
      title={stage.says || name}
      className={`flex h-full min-h-11 items-center justify-center gap-1 rounded-lg text-center text-[0.9375rem] leading-tight font-semibold hover:outline-2 hover:outline-sea ${stage.figure.length > 10 ? '' : 'whitespace-nowrap'} ${chip}`}
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
  const open = team.stages.filter(({ state }) => state !== 'done' && state !== 'risk');
  if (open.length === 0) return { text: 'All seven stages done', tone: 'done' };
  // A later stage that came out well does not hide one that is void since the script was changed.
  const changed = team.stages.find(({ state, says }) => state === 'now' && says !== '');
  if (changed) return { text: changed.says, tone: 'now' };
  return { text: `At ${stageWords[team.current]}`, tone: 'none' };
}

/** A team's name with what to know about it; it leads to where the team is. */
function Who({ team, link }: { team: BoardTeam; link: LinkTo }) {
  const know = whatToKnow(team);
  return (
    <Link to={link(team.id, team.current)} className="group flex min-h-11 flex-col justify-center">
      <span className="text-lg leading-tight font-bold group-hover:underline">{team.name}</span>
      <span
        className={`line-clamp-2 text-sm leading-tight font-normal ${tones[know.tone].text}`}
        title={know.text}
      >
        {know.text}
      </span>
    </Link>
  );
}

/** Where each team of an hour stands, stage by stage. */
export function Board({ period }: { period: Period }) {
  const link = linkIn(period);
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
              return (
                <tr key={team.id} className="[&>*]:border-t [&>*]:border-line-soft">
                  <th scope="row" className="py-0.5 pr-1 pl-1 text-left align-middle">
                    <Who team={team} link={link} />
                  </th>
                  {team.stages.map((stage) => (
                    <td key={stage.stage} className="h-[1px] py-1">
                      <Cell stage={stage} team={team} link={link} />
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

/** Who needs the teacher, in which order. */
export function GoNext({ period, ended = false }: { period: Period; ended?: boolean }) {
  const calls = period.teams
    .filter((team): team is BoardTeam & { help: HelpCall } => team.help !== null)
    .sort((a, b) => byUrgency(a.help, b.help));
  return (
    <Panel
      title={ended ? 'Left open' : 'Go to next'}
      aside={calls.length > 0 && !ended ? 'in this order' : undefined}
      className="lg:w-[18.5rem] lg:shrink-0"
    >
      {calls.length === 0 ? (
        <Empty title={ended ? 'Nothing was left open.' : 'Nobody is stuck.'}>
          {ended ? null : <p>Teams show up here as soon as something will not work.</p>}
        </Empty>
      ) : (
        <ol className="flex flex-col divide-y divide-line-soft">
          {calls.map((team) => (
            <li key={team.id} className="py-2.5 first:pt-0">
              <Link to={linkIn(period)(team.id, team.help.stage)} className="group block">
                <span className="flex flex-wrap items-center gap-2">
                  <span className="text-lg font-bold group-hover:underline">{team.name}</span>
                  <VerdictChip tone={team.help.grade}>{stageWords[team.help.stage]}</VerdictChip>
                  {ended ? null : (
                    <span className="ml-auto text-sm text-ink-2">
                      {team.help.quietMin === null
                        ? 'not begun'
                        : team.help.quietMin < 1
                          ? 'just now'
                          : `${team.help.quietMin} min`}
                    </span>
                  )}
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
