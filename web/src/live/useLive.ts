import { useMemo } from 'react';
import { hourSpent, hourState, type HourState } from '@vigilum/core/classroom';
import { outlookOf, type HourGiven, type Outlook } from '@vigilum/core/hour';
import type { HourNote, HourRunChange, Sheet } from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { useNow } from '../ui/time.ts';

/** An outlook is worked out anew after so much of the hour, or when the sheet changes, min. */
const EVERY_MIN = 0.5;

/** The time of day: "10:40". */
export const timeOf = (at: number): string =>
  new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

export interface Live {
  sheet: Sheet;
  state: HourState;
  /** Minutes of the hour that are over. */
  nowMin: number;
  given: HourGiven;
  outlook: Outlook;
  /** A minute of the hour as the clock on the wall shows it, if no pause comes in between. */
  clock: (minute: number) => string;
}

/** The sheet of an hour with its clock and its outlook. */
export function useLive(sheet: Sheet, receivedAt: number): Live {
  const skew = sheet.now - receivedAt;
  const now = useNow() + skew;
  const { hour } = sheet;
  const nowMin = hourSpent(hour, now);
  const state = hourState(hour, now);
  const coarse = Math.floor(nowMin / EVERY_MIN) * EVERY_MIN;
  const given = useMemo<HourGiven>(
    () => ({
      steps: sheet.steps,
      teams: sheet.teams,
      turns: sheet.turns,
      before: sheet.before,
      mats: sheet.run.mats,
      turnMin: sheet.run.turnMin,
      nowMin: coarse,
      endMin: hour.minutes,
    }),
    [sheet, coarse, hour.minutes],
  );
  const outlook = useMemo(() => outlookOf(given), [given]);
  const clock = (minute: number) => timeOf(now + 60_000 * (minute - nowMin));
  return { sheet, state, nowMin, given, outlook, clock };
}

/** What a teacher does in an hour that is going on. */
export function useRunning({ hour }: Pick<Sheet, 'hour'>) {
  const { id } = hour;
  const tells =
    (team: number | null = null) =>
    () => [{ what: 'hour' as const, class: hour.class.id, period: id, team }];
  const all = tells();
  return {
    run: useChange(
      (body: HourRunChange) => api('PATCH /periods/:id/run', { id, body }),
      (_, { plan }) => [
        ...all(),
        ...(plan ? [{ what: 'class' as const, class: hour.class.id, part: 'period' as const }] : []),
      ],
    ),
    send: useChange(
      ({ team, ...body }: { team: number; kind: HourNote['kind']; says: string; step?: string }) =>
        api('POST /periods/:id/teams/:team/notes', { id, team, body }),
      (_, { team }) => tells(team)(),
    ),
    takeBack: useChange((note: number) => api('DELETE /hour-notes/:id', { id: note }), all),
    wasThere: useChange(
      (team: number) => api('DELETE /periods/:id/teams/:team/call', { id, team }),
      (_, team) => tells(team)(),
    ),
    begin: useChange(
      (body: { team: number; mat: number }) => api('POST /periods/:id/turns', { id, body }),
      all,
    ),
    endTurn: useChange((turn: number) => api('DELETE /periods/:id/turns/:turn', { id, turn }), all),
    goOn: useChange((turn: number) => api('POST /periods/:id/turns/:turn/restoration', { id, turn }), all),
    pin: useChange(
      ({ team, place }: { team: number; place: number | null }) =>
        api('PUT /periods/:id/teams/:team/pin', { id, team, body: { place } }),
      all,
    ),
    more: useChange(
      (minutes: number) => api('PATCH /periods/:id', { id, body: { minutes } }),
      () => [{ what: 'class', class: hour.class.id, part: 'period' }],
    ),
  };
}
export type Running = ReturnType<typeof useRunning>;
