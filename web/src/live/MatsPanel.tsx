import { Flag, Pin, PinOff, Timer } from 'lucide-react';
import { toast } from 'sonner';
import { expectedTurns, QUEUE_RULE, type MatNotice, type Place } from '@vigilum/core/hour';
import type { MatTurn } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { clock as minutesAndSeconds } from '../ui/time.ts';
import type { Live, Running } from './useLive.ts';

const whole = (minutes: number): string => `${Math.max(0, Math.round(minutes))} min`;

/** What a teacher wants to hear about the mats, in words. */
function noticeSays({ kind, mat, team, minutes }: MatNotice, name: (team: number) => string): string {
  switch (kind) {
    case 'idle':
      return `Mat ${mat} is free, and ${name(team!)} is next.`;
    case 'over':
      return `${name(team!)} is ${whole(minutes)} over its time on mat ${mat}.`;
    case 'starving':
      return `${name(team!)} has waited ${whole(minutes)} and has not been on a mat.`;
  }
}

function Mat({
  mat,
  turn,
  next,
  live,
  running,
  may,
}: {
  mat: number;
  turn: MatTurn | undefined;
  next: Place | undefined;
  live: Live;
  running: Running;
  may: boolean;
}) {
  const { sheet, nowMin } = live;
  const name = (team: number) => sheet.teams.find(({ id }) => id === team)?.name ?? 'a team that left';
  const left = turn ? sheet.run.turnMin - (nowMin - turn.beganMin) : null;
  // Taken back: who was on the mat is on it again, who came waits where it did.
  const takeBack = async (id: number, came: Place) => {
    await running.endTurn.mutateAsync(id);
    if (turn) await running.goOn.mutateAsync(turn.id);
    if (came.pinned !== null) await running.pin.mutateAsync({ team: came.team, place: came.pinned });
  };
  const bring = (came: Place) =>
    running.begin.mutate(
      { team: came.team, mat },
      {
        onSuccess: ({ id }) =>
          toast(`${name(came.team)} is on mat ${mat}.`, {
            action: {
              label: 'Undo',
              // What goes wrong is told by the change itself.
              onClick: () => void takeBack(id, came).catch(() => undefined),
            },
          }),
      },
    );
  return (
    <li className="flex flex-wrap items-center gap-x-2 rounded-lg border border-line bg-paper/60 p-2">
      <div className={`flex items-baseline gap-2 ${turn ? 'basis-full' : 'mr-auto'}`}>
        <span className="text-ink-2">mat {mat}</span>
        <strong className="text-lg">{turn ? name(turn.team) : 'free'}</strong>
        {left === null ? null : (
          <span
            className={`ml-auto font-mono font-bold ${left < 0 ? 'text-fault' : left < 1 ? 'text-brass' : ''}`}
          >
            {left < 0 ? `+${minutesAndSeconds(-left * 60_000)}` : minutesAndSeconds(left * 60_000)}
          </span>
        )}
      </div>
      {turn && sheet.run.asksTick ? (
        <p className={turn.ticked ? 'text-done' : 'font-bold text-brass'}>
          {turn.ticked ? '✓ cautions ticked' : 'cautions not ticked yet'}
        </p>
      ) : null}
      {may ? (
        <span className="flex flex-wrap gap-1.5">
          {next ? (
            <Button main icon={Flag} className="px-3" onClick={() => bring(next)}>
              {name(next.team)} next
            </Button>
          ) : null}
          {turn ? (
            <Button
              className="px-3"
              onClick={() =>
                running.endTurn.mutate(turn.id, {
                  onSuccess: () =>
                    toast(`${name(turn.team)} is off mat ${mat}.`, {
                      action: { label: 'Undo', onClick: () => running.goOn.mutate(turn.id) },
                    }),
                })
              }
            >
              Done
            </Button>
          ) : null}
        </span>
      ) : null}
    </li>
  );
}

/** The mats and who waits for them: hand over by one press, a place set by the teacher, when each turn is expected. */
export function MatsPanel({ live, running, may }: { live: Live; running: Running; may: boolean }) {
  const { sheet, outlook, given, clock } = live;
  const { mats, turnMin, asksTick } = sheet.run;
  const turns = sheet.turns.filter(({ endedMin }) => endedMin === null);
  const name = (team: number) => sheet.teams.find(({ id }) => id === team)?.name ?? 'a team that left';
  const expected =
    mats === 0 ? [] : expectedTurns(outlook.queue, { mats, turnMin, now: given.nowMin, turns });
  const free = Array.from({ length: mats }, (_, i) => i + 1).filter(
    (mat) => !turns.some((turn) => turn.mat === mat),
  );
  const others = sheet.teams.filter(
    ({ id }) => !outlook.queue.some(({ team }) => team === id) && !turns.some(({ team }) => team === id),
  );
  const set = (body: { mats?: number; turnMin?: number; asksTick?: boolean }) => running.run.mutate(body);
  return (
    <Panel title="Mats" aside={mats === 0 ? 'none' : `${free.length} of ${mats} free`} className="shrink-0">
      {outlook.notices.length > 0 ? (
        <div role="status">
          <ul className="mb-2 flex flex-col gap-1">
            {outlook.notices.map((notice) => (
              <li
                key={`${notice.kind} ${notice.mat} ${notice.team}`}
                className={`border-l-4 pl-2 font-semibold ${notice.kind === 'idle' ? 'border-l-sea' : 'border-l-brass text-brass'}`}
              >
                {noticeSays(notice, name)}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      <ul className="flex flex-col gap-2">
        {Array.from({ length: mats }, (_, i) => i + 1).map((mat) => {
          const turn = turns.find((one) => one.mat === mat);
          // Free mats take the first of the queue in turn; a mat that is taken, whoever is expected on it.
          const freeAt = free.indexOf(mat);
          const next =
            freeAt >= 0
              ? outlook.queue[freeAt]
              : outlook.queue.find((_, place) => expected[place]?.mat === mat);
          return <Mat key={mat} mat={mat} turn={turn} next={next} live={live} running={running} may={may} />;
        })}
      </ul>
      <h3 className="mt-3 font-bold">Queue</h3>
      {outlook.queue.length === 0 ? (
        <p className="text-ink-2">Nobody waits. Teams come here when they are proved.</p>
      ) : (
        <ol className="flex flex-col divide-y divide-line-soft">
          {outlook.queue.map((place, i) => (
            <li key={place.team} className="flex flex-wrap items-center gap-x-2 py-1">
              <span className="w-5 font-mono text-ink-2">{place.place}</span>
              <span className="min-w-0 flex-1">
                <strong>{name(place.team)}</strong>
                <span className="block text-sm leading-tight whitespace-nowrap text-ink-2">{place.why}</span>
              </span>
              {expected[i] ? (
                <span className="font-mono text-ink-2">{clock(expected[i].fromMin)}</span>
              ) : null}
              {may ? (
                <Button
                  className="px-2"
                  title={
                    place.pinned === null
                      ? `${name(place.team)}: to the front of the queue`
                      : `${name(place.team)}: back to its place by the rule`
                  }
                  aria-label={
                    place.pinned === null
                      ? `Put ${name(place.team)} to the front`
                      : `${name(place.team)} back to the rule`
                  }
                  onClick={() =>
                    running.pin.mutate({ team: place.team, place: place.pinned === null ? 1 : null })
                  }
                >
                  {place.pinned === null ? (
                    <Pin size={16} aria-hidden="true" />
                  ) : (
                    <PinOff size={16} aria-hidden="true" />
                  )}
                </Button>
              ) : null}
            </li>
          ))}
        </ol>
      )}
      <p className="mt-2 text-sm text-ink-2">{QUEUE_RULE}</p>
      {may ? (
        <details className="mt-1">
          <summary className="min-h-11 cursor-pointer py-2.5 font-bold">Mats and turns</summary>
          <div className="flex flex-wrap gap-3">
            <Labelled label="mats">
              <select
                className="input h-11 w-20 font-mono"
                value={mats}
                onChange={(event) => set({ mats: Number(event.target.value) })}
              >
                {Array.from({ length: 9 }, (_, n) => (
                  <option key={n} value={n}>
                    {n}
                  </option>
                ))}
              </select>
            </Labelled>
            <Labelled
              label={
                <>
                  <Timer size={15} className="inline" aria-hidden="true" /> turn, min
                </>
              }
            >
              <select
                className="input h-11 w-20 font-mono"
                value={turnMin}
                onChange={(event) => set({ turnMin: Number(event.target.value) })}
              >
                {[...new Set([3, 4, 5, 6, 8, 10, 12, 15, 20, turnMin])]
                  .sort((a, b) => a - b)
                  .map((n) => (
                    <option key={n} value={n}>
                      {n}
                    </option>
                  ))}
              </select>
            </Labelled>
            <label className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-(--sea)"
                checked={asksTick}
                onChange={(event) => set({ asksTick: event.target.checked })}
              />
              teams tick the cautions first
            </label>
            {others.length > 0 ? (
              <Labelled label="let another team wait">
                <select
                  className="input h-11 w-44"
                  value=""
                  onChange={(event) => {
                    const team = Number(event.target.value);
                    if (team) running.pin.mutate({ team, place: outlook.queue.length + 1 });
                  }}
                >
                  <option value="">choose a team</option>
                  {others.map(({ id, name: word }) => (
                    <option key={id} value={id}>
                      {word}
                    </option>
                  ))}
                </select>
              </Labelled>
            ) : null}
          </div>
        </details>
      ) : null}
    </Panel>
  );
}
