import { DoorOpen, Hand, LayoutGrid, MessageSquare } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { SheetTeam } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { remembered } from '../ui/remembered.ts';
import { tones } from '../ui/verdict.tsx';
import { SendTo } from './SendTo.tsx';
import { StepDots } from './StepDots.tsx';
import type { Live, Running } from './useLive.ts';

const orders = {
  class: 'as in the class',
  behind: 'furthest behind first',
  finding: 'what is wrong first',
} as const;
type Order = keyof typeof orders;
const isOrder = (text: string): text is Order => text in orders;
const grades: Record<string, number> = { fault: 0, risk: 1 };

function sorted({ sheet, outlook }: Live, by: Order): SheetTeam[] {
  const at = (team: SheetTeam) => outlook.standings.get(team.id)!;
  const teams = [...sheet.teams];
  if (by === 'behind')
    teams.sort((a, b) => at(a).at - at(b).at || at(a).sinceMin - at(b).sinceMin || a.id - b.id);
  if (by === 'finding')
    teams.sort(
      (a, b) => (grades[a.help?.grade ?? ''] ?? 2) - (grades[b.help?.grade ?? ''] ?? 2) || a.id - b.id,
    );
  return teams;
}

function Row({
  team,
  live,
  running,
  canSend,
}: {
  team: SheetTeam;
  live: Live;
  running: Running;
  canSend: boolean;
}) {
  const { sheet, outlook, nowMin, clock } = live;
  const [sending, setSending] = useState(false);
  const { at, sinceMin } = outlook.standings.get(team.id)!;
  const step = sheet.steps[at];
  const own = team.strip.find(({ id }) => id === step?.id);
  const figure = own?.figure || team.strip.findLast((one) => one.figure !== '')?.figure;
  const last = outlook.forecast.teams.find(({ id }) => id === team.id)!.steps.at(-1);
  const spent = Math.max(0, Math.round(nowMin - sinceMin));
  const slow = step !== undefined && step.minutes > 0 && nowMin - sinceMin > 2 * step.minutes;
  const unseen = team.notes.filter(({ seenAt, kind }) => seenAt === null && kind === 'note').length;
  return (
    <tr className="[&>*]:border-t [&>*]:border-line-soft">
      <th scope="row" className="py-0.5 pr-2 pl-1 text-left align-middle">
        <Link
          to={`/teams/${team.id}/lessons/${sheet.hour.lesson.slug}${step ? `/${step.id}` : ''}`}
          className="group flex min-h-11 flex-col justify-center"
        >
          <span className="text-lg leading-tight font-bold group-hover:underline">{team.name}</span>
          {team.call ? (
            <span className="flex items-center gap-1 text-sm leading-tight font-bold whitespace-nowrap text-fault">
              <Hand size={15} strokeWidth={2.6} aria-hidden="true" /> calls you
            </span>
          ) : null}
        </Link>
      </th>
      <td className="px-1">
        <StepDots steps={sheet.steps} strip={team.strip} at={at} />
      </td>
      <td className="px-1">
        <span className="text-lg leading-tight font-bold">{step?.word ?? 'all done'}</span>
        {step ? (
          <span
            className={`block text-sm leading-tight whitespace-nowrap ${slow ? 'font-bold text-brass' : 'text-ink-2'}`}
          >
            {spent} min{slow ? ` of ${step.minutes}` : ''}
          </span>
        ) : null}
      </td>
      <td className="px-1 text-right font-mono text-lg font-bold whitespace-nowrap">{figure ?? ''}</td>
      <td className="px-2">
        {team.call ? (
          <span className="line-clamp-2 text-[0.9375rem] leading-tight font-semibold text-fault">
            “{team.call.about}”
          </span>
        ) : team.finding ? (
          <span
            className={`line-clamp-2 text-[0.9375rem] leading-tight ${team.help ? tones[team.help.grade].text : 'text-ink-2'}`}
            title={`${team.finding.says} ${team.finding.mend}`}
          >
            {team.finding.says}
          </span>
        ) : (
          <span className="text-[0.9375rem] text-ink-2">nothing</span>
        )}
      </td>
      <td className="px-1 whitespace-nowrap">
        {step && last ? (
          last.byEnd < 0.1 ? (
            <span className="text-brass">not by the end</span>
          ) : (
            <>
              <span className="font-mono font-bold">{clock(last.mid)}</span>
              <span className="block text-sm leading-tight text-ink-2">
                {clock(last.low)} – {clock(last.high)}
              </span>
            </>
          )
        ) : (
          <span className="text-done">✓ through</span>
        )}
      </td>
      <td className="pl-1 text-right">
        {canSend ? (
          <Button
            icon={MessageSquare}
            className="px-2.5"
            aria-label={`A note or a hint to ${team.name}`}
            title={unseen > 0 ? `${unseen} not seen yet` : `A note or a hint to ${team.name}`}
            onClick={() => setSending(true)}
          >
            {unseen > 0 ? <span className="font-mono">{unseen}</span> : null}
          </Button>
        ) : null}
        {sending ? (
          <SendTo team={team} step={step} running={running} close={() => setSending(false)} />
        ) : null}
      </td>
    </tr>
  );
}

const order = remembered('vigilum sheet order', Object.keys(orders) as Order[], 'class');

/** One row a team: where it is and since when, what came out, what stands against it, how it will go on. */
export function SheetTable({ live, running, canSend }: { live: Live; running: Running; canSend: boolean }) {
  const chosen = order.use();
  return (
    <div className="panel flex min-h-0 min-w-0 flex-1 flex-col p-3 pt-1.5">
      <div className="relative min-h-0 flex-1 overflow-auto">
        <table className="h-full w-full min-w-[44rem] border-separate border-spacing-0">
          <caption className="sr-only">Where each team is in {live.sheet.hour.lesson.title}</caption>
          <thead>
            <tr className="h-9 text-left text-ink-2 [&>th]:px-1 [&>th]:font-semibold">
              <th scope="col" className="w-[6.25rem]">
                team
              </th>
              <th scope="col">steps</th>
              <th scope="col" className="w-[6.25rem]">
                is at
              </th>
              <th scope="col" className="text-right whitespace-nowrap">
                came out
              </th>
              <th scope="col" className="w-full px-2!">
                what stands against it
              </th>
              <th scope="col" className="whitespace-nowrap">
                through by
              </th>
              <th scope="col">
                <span className="sr-only">notes</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {sorted(live, chosen).map((team) => (
              <Row key={team.id} team={team} live={live} running={running} canSend={canSend} />
            ))}
          </tbody>
        </table>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line-soft pt-2 text-ink-2">
        <label className="flex items-center gap-2">
          in order
          <select
            className="input h-11 w-52"
            value={chosen}
            onChange={(event) => {
              if (isOrder(event.target.value)) order.set(event.target.value);
            }}
          >
            {Object.entries(orders).map(([id, word]) => (
              <option key={id} value={id}>
                {word}
              </option>
            ))}
          </select>
        </label>
        <span>times in an interval of 80 %</span>
        <span className="ml-auto flex flex-wrap gap-x-4">
          <Link
            to={`/hours/${live.sheet.hour.id}`}
            className="inline-flex min-h-11 items-center gap-1.5 font-semibold text-sea underline"
          >
            <LayoutGrid size={18} aria-hidden="true" /> Board of all stages
          </Link>
          <Link
            to={`/classes/${live.sheet.hour.class.id}/doors`}
            className="inline-flex min-h-11 items-center gap-1.5 font-semibold text-sea underline"
          >
            <DoorOpen size={18} aria-hidden="true" /> Doors and cards
          </Link>
        </span>
      </div>
    </div>
  );
}
