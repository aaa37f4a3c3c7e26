import { useMemo } from 'react';
import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { clashesOf, timetableOf, undoOf, type Clash, type Slot, type Timetable } from '@vigilum/core/year';
import type { Arrangement, ChangeOf, MeetingEntry, PlanHour, YearPlan } from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { useChange } from '../data/queries.ts';

export const usePlanQuery = () => useQuery({ queryKey: keys.plan, queryFn: () => api('GET /plan') });

/** What a change of the plan touches on this page. */
export const planTouched = (klass?: number): ChangeOf[] => [
  { what: 'plan' },
  ...(klass === undefined ? [] : [{ what: 'class', class: klass, part: 'period' } as const]),
];

/** The meetings of a class in order of time, as what lessons are moved in; with the hours that they hold. */
export function slotsOf(plan: YearPlan, klass: number): Slot[] {
  const byMeeting = new Map(
    plan.hours.flatMap((hour) => (hour.meeting === null ? [] : [[hour.meeting, hour]])),
  );
  return plan.meetings
    .filter((meeting) => meeting.class === klass)
    .map(({ id, lost }) => {
      const hour = byMeeting.get(id);
      return {
        id,
        holds: hour ? { hour: hour.id } : null,
        fixed: hour ? !hour.open : false,
        lost: lost !== null,
      };
    });
}

/** The meetings of a class that are ahead and have no lesson yet, in order of time. */
export function freeOf(plan: YearPlan, klass: number): MeetingEntry[] {
  const taken = new Set(plan.hours.map(({ meeting }) => meeting));
  return plan.meetings.filter(
    (meeting) =>
      meeting.class === klass &&
      meeting.lost === null &&
      meeting.startsAt >= plan.now &&
      !taken.has(meeting.id),
  );
}

interface Sent {
  klass: number;
  body: Arrangement;
  says: string;
  /** What puts it back; null for what puts something back itself. */
  back: ((made: readonly number[]) => Arrangement) | null;
  /** Done once the server has taken it. */
  then?: () => void;
}

/** Changes the plan of a class in one go, says what was done, and offers to undo it. */
export function useArrange(plan: YearPlan) {
  const send = useChange(
    ({ klass, body }: Sent) => api('PUT /classes/:id/arrangement', { id: klass, body }),
    ({ hours }, { klass, says, back, then }) => {
      // Told here, and not where it was asked for: what was pressed may be gone by now.
      toast(says, {
        ...(back
          ? {
              action: {
                label: 'Undo',
                onClick: () => send.mutate({ klass, body: back(hours), says: 'Put back.', back: null }),
              },
            }
          : {}),
      });
      then?.();
      return planTouched(klass);
    },
  );
  const arrange = (klass: number, body: Arrangement, says: string, then?: () => void) =>
    send.mutate({ klass, body, says, back: (made) => undoOf(plan, body, made), ...(then ? { then } : {}) });
  return { arrange, busy: send.isPending };
}

export interface Derived {
  table: Timetable;
  clashes: Clash[];
  hourById: Map<number, PlanHour>;
  meetingById: Map<number, MeetingEntry>;
  /** Hours that clash, by id. */
  short: Set<number>;
}

/** What follows from the plan: clashes from now on, and what is looked up again and again. */
export function useDerived(plan: YearPlan): Derived {
  return useMemo(() => {
    const table = timetableOf(plan);
    const clashes = clashesOf(table.hours, table.things);
    return {
      table,
      clashes,
      hourById: new Map(plan.hours.map((hour) => [hour.id, hour])),
      meetingById: new Map(plan.meetings.map((meeting) => [meeting.id, meeting])),
      short: new Set(clashes.flatMap(({ hours }) => hours)),
    };
  }, [plan]);
}

/** Days and times by the school's clock, whatever the clock of this machine. */
export function clockOf(zone: string) {
  const format = (options: Intl.DateTimeFormatOptions) => {
    const told = new Intl.DateTimeFormat('en-GB', { timeZone: zone, ...options });
    return (at: number) => told.format(at);
  };
  const iso = new Intl.DateTimeFormat('sv-SE', { timeZone: zone });
  return {
    day: format({ weekday: 'short', day: 'numeric', month: 'short' }),
    time: format({ hour: '2-digit', minute: '2-digit' }),
    when: format({ weekday: 'short', day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' }),
    /** 2026-11-28. */
    iso: (at: number) => iso.format(at),
  };
}
