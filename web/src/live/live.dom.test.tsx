/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, renderHook, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import type { Sheet, SheetTeam } from '@vigilum/contract/types';
import { GoPanel } from './GoPanel.tsx';
import { useLive, useRunning } from './useLive.ts';

const START = Date.parse('2026-03-10T10:00:00Z');
const MINUTE = 60_000;
const team = (id: number, name: string, more: Partial<SheetTeam> = {}): SheetTeam => ({
  id,
  name,
  robot: 'Cobble',
  strip: [],
  finding: null,
  help: null,
  lastAt: null,
  place: null,
  visits: [],
  provedMin: null,
  call: null,
  notes: [],
  pinned: null,
  ...more,
});
/** An hour of fifty minutes that has gone on for half an hour, with a pause of two. */
const sheet = (teams: SheetTeam[], hour: Partial<Sheet['hour']> = {}): Sheet => ({
  now: START + 30 * MINUTE,
  hour: {
    id: 3,
    first: 3,
    startsAt: START,
    minutes: 50,
    beganAt: START,
    pausedAt: null,
    pausedS: 120,
    endedAt: null,
    class: { id: 1, name: '7 Kittiwake', school: 'Harbour' },
    lesson: { slug: 'tide-line', title: 'Tide line', aim: '' },
    ...hour,
  },
  run: {
    mats: 1,
    turnMin: 4,
    asksTick: false,
    stopped: null,
    told: null,
    plan: { minutes: {}, trials: {}, skipped: [], atHome: [] },
  },
  steps: [],
  teams,
  turns: [],
  before: [],
});
const around = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient()}>
    <MemoryRouter>{children}</MemoryRouter>
  </QueryClientProvider>
);

beforeEach(() => {
  jest.useFakeTimers({ now: START + 31 * MINUTE, advanceTimers: true });
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

describe('the hour on the live page', () => {
  it('counts minutes by the server’s clock, without its pauses', () => {
    // This machine is a minute ahead of the server.
    const { result } = renderHook(() => useLive(sheet([]), START + 31 * MINUTE), { wrapper: around });
    expect(result.current.nowMin).toBeCloseTo(28, 2);
    expect(result.current.state).toBe('running');
    expect(result.current.given).toMatchObject({ nowMin: 28, endMin: 50, mats: 1, turnMin: 4 });
    // Twelve minutes on, the clock on the wall shows 10:42.
    expect(result.current.clock(40)).toBe(
      new Date(START + 42 * MINUTE).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }),
    );
  });

  it('is over when its minutes are, and planned before it begins', () => {
    const stateOf = (hour: Partial<Sheet['hour']>) =>
      renderHook(() => useLive(sheet([], hour), START + 31 * MINUTE), { wrapper: around }).result.current
        .state;
    expect(stateOf({ minutes: 27 })).toBe('over');
    expect(stateOf({ beganAt: null })).toBe('planned');
    expect(stateOf({ endedAt: START })).toBe('ended');
  });
});

describe('where the teacher goes next', () => {
  const help = (grade: 'fault' | 'risk', quietMin: number | null) => ({
    stage: 'wire' as const,
    grade,
    says: `says ${grade}`,
    mend: `mend ${grade}`,
    quietMin,
  });
  const teams = [
    team(1, 'Auk', { help: help('risk', 2) }),
    team(2, 'Crake', { call: { about: 'second', at: START + 29 * MINUTE }, help: help('fault', 9) }),
    team(3, 'Dunlin', { call: { about: 'first', at: START + 20 * MINUTE } }),
    team(4, 'Eider', { help: help('fault', null) }),
    team(5, 'Fulmar'),
  ];
  function Page({ may, of }: { may: boolean; of: Sheet }) {
    return <GoPanel live={useLive(of, START + 31 * MINUTE)} running={useRunning(of)} may={may} />;
  }
  const shown = () =>
    screen.getAllByRole('listitem').map((item) => within(item).getAllByText(/^[A-Z][a-z]+$/)[0]!.textContent);

  it('names who calls first, the longest first, then faults before risks; each team once', () => {
    render(<Page may of={sheet(teams)} />, { wrapper: around });
    expect(shown()).toEqual(['Dunlin', 'Crake', 'Eider', 'Auk']);
    expect(screen.getByText('calls, 10 min')).toBeTruthy();
    expect(screen.getByText('calls, 1 min')).toBeTruthy();
    expect(screen.getByText(/“first”/)).toBeTruthy();
  });

  it('offers to say that one was there to who may, and tells the server which team', async () => {
    const asked: string[] = [];
    globalThis.fetch = ((input: string, init?: RequestInit) => {
      asked.push(`${init?.method} ${input}`);
      return Promise.resolve(new Response(null, { status: 204 }));
    }) as typeof fetch;
    const { unmount } = render(<Page may of={sheet(teams)} />, { wrapper: around });
    await userEvent
      .setup({ advanceTimers: (ms) => jest.advanceTimersByTime(ms) })
      .click(screen.getAllByRole('button', { name: 'I was there' })[1]!);
    expect(asked).toEqual(['DELETE /api/periods/3/teams/2/call']);
    unmount();
    render(<Page may={false} of={sheet(teams)} />, { wrapper: around });
    expect(screen.queryAllByRole('button')).toEqual([]);
  });

  it('says so where nobody is', () => {
    render(<Page may of={sheet([team(5, 'Fulmar')])} />, { wrapper: around });
    expect(screen.getByText('Nobody is stuck and nobody calls.')).toBeTruthy();
  });
});
