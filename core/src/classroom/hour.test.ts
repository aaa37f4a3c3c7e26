import { describe, expect, it } from '@jest/globals';
import fc from 'fast-check';
import {
  actionsOf,
  afterAction,
  FORGOTTEN_MS,
  hourActions,
  hourLeft,
  hourState,
  type HourTimes,
} from './index.ts';

const MIN = 60_000;
const T = 1_000_000_000;
const planned: HourTimes = {
  startsAt: T,
  minutes: 50,
  beganAt: null,
  pausedAt: null,
  pausedS: 0,
  endedAt: null,
};
const after = (hour: HourTimes, ...steps: [action: (typeof hourActions)[number], now: number][]) =>
  steps.reduce((one, [action, now]) => afterAction(one, action, now)!, hour);

describe('a lesson hour', () => {
  it('is planned, runs, is over, and counts as ended when nobody ends it', () => {
    expect(hourState(planned, T + 999 * MIN)).toBe('planned');
    const hour = after(planned, ['begin', T + 5 * MIN]);
    expect([hourState(hour, T + 54 * MIN), hourLeft(hour, T + 54 * MIN)]).toEqual(['running', MIN]);
    expect(hourState(hour, T + 56 * MIN)).toBe('over');
    expect(hourState(hour, T + 55 * MIN + FORGOTTEN_MS)).toBe('ended');
  });

  it('loses nothing by a pause, however often', () => {
    const hour = after(
      planned,
      ['begin', T],
      ['pause', T + 10 * MIN],
      ['resume', T + 30 * MIN],
      ['pause', T + 31 * MIN],
    );
    expect(hourState(hour, T + 90 * MIN)).toBe('paused');
    expect(hourLeft(hour, T + 90 * MIN)).toBe(39 * MIN);
    const on = after(hour, ['resume', T + 90 * MIN]);
    expect(hourLeft(on, T + 92 * MIN)).toBe(37 * MIN);
  });

  it('ended and reopened three days later has left what was left', () => {
    const hour = after(planned, ['begin', T], ['end', T + 20 * MIN]);
    expect([hourState(hour, T + 21 * MIN), hourLeft(hour, T + 999 * MIN)]).toEqual(['ended', 30 * MIN]);
    const later = T + 3 * 86_400_000;
    const again = after(hour, ['reopen', later]);
    expect([hourState(again, later + MIN), hourLeft(again, later + MIN)]).toEqual(['running', 29 * MIN]);
  });

  it('forgotten, it is reopened with its time up, and may be made longer', () => {
    const hour = after(planned, ['begin', T]);
    const later = T + 3 * 86_400_000;
    expect(hourState(hour, later)).toBe('ended');
    const again = after(hour, ['reopen', later]);
    expect(hourState(again, later + 1000)).toBe('over');
    expect(hourState({ ...again, minutes: 60 }, later + 1000)).toBe('running');
    // A pause that was forgotten over a weekend as well.
    const paused = after(planned, ['begin', T], ['pause', T + 10 * MIN]);
    expect(hourState(paused, later)).toBe('ended');
    expect(hourLeft(after(paused, ['reopen', later]), later)).toBe(40 * MIN);
  });

  it('allows only what it says, and any order of allowed actions leaves it in a state that it can leave', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.constantFrom(...hourActions), fc.integer({ min: 0, max: 3000 })), {
          maxLength: 12,
        }),
        (steps) => {
          let [hour, now] = [planned, T];
          for (const [action, minutes] of steps) {
            now += minutes * MIN;
            const state = hourState(hour, now);
            const left = hourLeft(hour, now);
            const next = afterAction(hour, action, now);
            expect(next !== null).toBe(actionsOf(state).includes(action));
            if (!next) continue;
            hour = next;
            expect(hourState(hour, now)).not.toBe(state);
            // Nothing but the beginning changes what is left, to the second.
            if (action !== 'begin' && !(action === 'reopen' && left < 0))
              expect(Math.abs(hourLeft(hour, now) - left)).toBeLessThan(1001);
            expect(actionsOf(hourState(hour, now)).length).toBeGreaterThan(0);
          }
        },
      ),
    );
  });
});
