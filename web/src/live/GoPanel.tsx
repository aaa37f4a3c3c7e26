import { Hand } from 'lucide-react';
import { Link } from 'react-router';
import { byUrgency, type HelpCall } from '@vigilum/core/classroom';
import type { SheetTeam } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { stageWords } from '../ui/stageWords.ts';
import { VerdictChip } from '../ui/verdict.tsx';
import type { Live, Running } from './useLive.ts';

/** Minutes since, as it is said beside a name. */
const quiet = (minutes: number | null): string =>
  minutes === null ? 'not begun' : minutes < 1 ? 'just now' : `${minutes} min`;

/** Where the teacher goes next: calls of teams first, then what is wrong, with what to do about it. */
export function GoPanel({ live, running, may }: { live: Live; running: Running; may: boolean }) {
  const { sheet } = live;
  const { slug } = sheet.hour.lesson;
  const calls = sheet.teams.filter((team) => team.call !== null).sort((a, b) => a.call!.at - b.call!.at);
  const others = sheet.teams
    .filter((team): team is SheetTeam & { help: HelpCall } => team.call === null && team.help !== null)
    .sort((a, b) => byUrgency(a.help, b.help));
  return (
    <Panel
      title="Go to next"
      aside={calls.length > 0 ? 'calls first' : undefined}
      className="max-h-[19rem] shrink-0"
    >
      {calls.length + others.length === 0 ? (
        <p className="text-ink-2">Nobody is stuck and nobody calls.</p>
      ) : null}
      <ol className="flex flex-col divide-y divide-line-soft">
        {calls.map((team) => (
          <li key={team.id} className="py-2 first:pt-0">
            <Link to={`/teams/${team.id}/lessons/${slug}`} className="group block">
              <span className="flex items-center gap-2">
                <Hand size={18} className="text-fault" aria-hidden="true" />
                <strong className="text-lg group-hover:underline">{team.name}</strong>
                <span className="ml-auto text-sm text-ink-2">
                  calls, {quiet(Math.floor((sheet.now - team.call!.at) / 60_000))}
                </span>
              </span>
              <span className="block font-semibold">“{team.call!.about}”</span>
              {team.finding ? <span className="block text-ink-2">{team.finding.mend}</span> : null}
            </Link>
            {may ? (
              <Button className="mt-1 px-3" onClick={() => running.wasThere.mutate(team.id)}>
                I was there
              </Button>
            ) : null}
          </li>
        ))}
        {others.map((team) => (
          <li key={team.id} className="py-2 first:pt-0">
            <Link to={`/teams/${team.id}/lessons/${slug}/${team.help.stage}`} className="group block">
              <span className="flex flex-wrap items-center gap-2">
                <strong className="text-lg group-hover:underline">{team.name}</strong>
                <VerdictChip tone={team.help.grade}>{stageWords[team.help.stage]}</VerdictChip>
                <span className="ml-auto text-sm text-ink-2">
                  {quiet(
                    team.lastAt === null ? null : Math.max(0, Math.floor((sheet.now - team.lastAt) / 60_000)),
                  )}
                </span>
              </span>
              <span className="block font-semibold">{team.help.says}</span>
              <span className="block text-ink-2">{team.help.mend}</span>
            </Link>
          </li>
        ))}
      </ol>
    </Panel>
  );
}
