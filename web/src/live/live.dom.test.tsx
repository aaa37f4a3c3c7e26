/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, renderHook, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactNode } from 'react';
import { MemoryRouter } from 'react-router';
import type { PublicBoard, Sheet, SheetTeam, TeamHour } from '@vigilum/contract/types';
import type { HourStep } from '@vigilum/core/hour';
import { keys } from '../data/keys.ts';
import BoardPage from './BoardPage.tsx';
import { GoPanel } from './GoPanel.tsx';
import { MatsPanel } from './MatsPanel.tsx';
import { SheetTable } from './SheetTable.tsx';
import { StopAll } from './StopAll.tsx';
import { TeamBar } from './TeamBar.tsx';
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
const hand = () => userEvent.setup({ advanceTimers: (ms) => jest.advanceTimersByTime(ms) });
const step = (id: string, fromMin: number, minutes: number, onMat = false): HourStep => ({
  id,
  kind: 'read',
  word: id[0]!.toUpperCase() + id.slice(1),
  title: id,
  minutes,
  fromMin,
  toMin: fromMin + minutes,
  onMat,
  trials: null,
});
const around = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient()}>
    <MemoryRouter>{children}</MemoryRouter>
  </QueryClientProvider>
);

/** What was asked of the server: method, path and body. */
let asked: string[];
beforeEach(() => {
  asked = [];
  globalThis.fetch = ((input: string, init?: RequestInit) => {
    if (init?.method !== 'GET')
      asked.push(
        [init?.method, input.replace('/api', ''), init?.body as string | undefined].filter(Boolean).join(' '),
      );
    const made = init?.method === 'POST';
    return Promise.resolve({
      status: made ? 201 : 204,
      ok: true,
      json: () => Promise.resolve({ id: 77 }),
    } as Response);
  }) as typeof fetch;
  // jsdom draws nothing: no dialogs, no sizes.
  globalThis.ResizeObserver = class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
  HTMLDialogElement.prototype.showModal = function () {
    this.open = true;
  };
  HTMLDialogElement.prototype.close = function () {
    this.open = false;
    this.dispatchEvent(new Event('close'));
  };
  jest.useFakeTimers({ now: START + 31 * MINUTE, advanceTimers: true });
});
afterEach(() => {
  cleanup();
  jest.useRealTimers();
});

describe('the hour on the live page', () => {
  it('works its outlook out anew every half minute', () => {
    const minutes = (spentS: number) =>
      renderHook(() => useLive(sheet([]), START + 31 * MINUTE - (spentS - 28 * 60) * 1000), {
        wrapper: around,
      }).result.current.given.nowMin;
    expect([28 * 60, 28 * 60 + 29, 28 * 60 + 31, 29 * 60 - 1].map(minutes)).toEqual([28, 28, 28.5, 28.5]);
  });

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
    const { unmount } = render(<Page may of={sheet(teams)} />, { wrapper: around });
    await hand().click(screen.getAllByRole('button', { name: 'I was there' })[1]!);
    expect(asked).toEqual(['DELETE /periods/3/teams/2/call']);
    unmount();
    render(<Page may={false} of={sheet(teams)} />, { wrapper: around });
    expect(screen.queryAllByRole('button')).toEqual([]);
  });

  it('says so where nobody is', () => {
    render(<Page may of={sheet([team(5, 'Fulmar')])} />, { wrapper: around });
    expect(screen.getByText('Nobody is stuck and nobody calls.')).toBeTruthy();
  });
});

const steps = [step('read', 0, 10), step('script', 10, 5), step('floor', 15, 20, true)];
const at = (n: number) =>
  steps.map(({ id }, i) => ({
    id,
    state: i < n ? ('done' as const) : i === n ? ('now' as const) : ('none' as const),
    figure: i < n ? `${10 + i} %` : '',
  }));
const note = (id: number, more: Partial<SheetTeam['notes'][number]> = {}) => ({
  id,
  kind: 'note' as const,
  says: `note ${id}`,
  step: null,
  at: START,
  seenAt: null,
  ...more,
});

describe('the sheet', () => {
  const teams = [
    team(1, 'Auk', {
      strip: at(2),
      visits: [{ step: 'floor', atMin: 20 }],
      help: { stage: 'prove', grade: 'risk', says: 'r', mend: 'm', quietMin: null },
      finding: { says: 'r', mend: 'm' },
    }),
    team(4, 'Eider', { strip: at(3) }),
    team(2, 'Crake', {
      strip: at(1),
      visits: [{ step: 'script', atMin: 8 }],
      notes: [note(1), note(2, { seenAt: START }), note(3, { kind: 'hint', step: 'script' })],
    }),
    team(3, 'Dunlin', {
      strip: at(0),
      visits: [{ step: 'read', atMin: 25 }],
      help: { stage: 'wire', grade: 'fault', says: 'f', mend: 'm', quietMin: null },
      finding: { says: 'f', mend: 'm' },
    }),
  ];
  function Page({ canSend = true }: { canSend?: boolean }) {
    const of = { ...sheet(teams), steps };
    return <SheetTable live={useLive(of, START + 31 * MINUTE)} running={useRunning(of)} canSend={canSend} />;
  }
  const row = (name: string) => screen.getByRole('rowheader', { name: new RegExp(name) }).closest('tr')!;
  const names = () => screen.getAllByRole('rowheader').map((one) => one.textContent);

  it('says where each team is, since when, what came out last, and who is over time', () => {
    render(<Page />, { wrapper: around });
    // The floor's own figure is not there yet: the last one stands.
    expect(within(row('Auk')).getByText('11 %')).toBeTruthy();
    expect(within(row('Dunlin')).queryByText(/%$/)).toBeNull();
    expect(within(row('Auk')).getByText('8 min').className).toContain('text-ink-2');
    expect(within(row('Crake')).getByText('20 min of 5').className).toContain('text-brass');
    expect(within(row('Eider')).getByText('all done')).toBeTruthy();
    expect(within(row('Eider')).getByText('✓ through')).toBeTruthy();
  });

  it('counts unread notes and lists what was sent before', async () => {
    render(<Page />, { wrapper: around });
    expect(within(row('Crake')).getByRole('button').textContent).toContain('1');
    expect(within(row('Auk')).getByRole('button').textContent).not.toMatch(/\d/);
    await hand().click(within(row('Crake')).getByRole('button'));
    const dialog = screen.getByRole('dialog');
    const sent = within(dialog).getByRole('list', { name: 'Sent before' });
    expect(
      within(sent)
        .getAllByRole('listitem')
        .map((one) => one.textContent),
    ).toEqual(['“note 1” not seen yet', '“note 2” seen', '“note 3” not seen yet']);
    await hand().click(within(dialog).getByRole('button', { name: /Open the next hint of Script/ }));
    await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
    await hand().click(within(row('Crake')).getByRole('button'));
    await hand().type(screen.getByLabelText('a note on its tablet'), ' Look up. ');
    await hand().click(screen.getByRole('button', { name: /Send the note/ }));
    expect(asked).toEqual([
      'POST /periods/3/teams/2/notes {"kind":"hint","says":"Your teacher opened a hint at Script.","step":"script"}',
      'POST /periods/3/teams/2/notes {"kind":"note","says":"Look up."}',
    ]);
    cleanup();
    render(<Page />, { wrapper: around });
    await hand().click(within(row('Auk')).getByRole('button'));
    expect(screen.queryByRole('list', { name: 'Sent before' })).toBeNull();
    cleanup();
    render(<Page canSend={false} />, { wrapper: around });
    expect(screen.queryAllByRole('button')).toEqual([]);
  });

  it('stands in the order that the teacher wants', async () => {
    render(<Page />, { wrapper: around });
    const order = screen.getByLabelText('in order');
    await hand().selectOptions(order, 'furthest behind first');
    expect(names().map((name) => name.slice(0, 4))).toEqual(['Dunl', 'Crak', 'Auk', 'Eide']);
    await hand().selectOptions(order, 'what is wrong first');
    expect(names().map((name) => name.slice(0, 4))).toEqual(['Dunl', 'Auk', 'Crak', 'Eide']);
    await hand().selectOptions(order, 'as in the class');
    expect(names().map((name) => name.slice(0, 4))).toEqual(['Auk', 'Eide', 'Crak', 'Dunl']);
  });
});

describe('mats', () => {
  const waits = (id: number, name: string, more: Partial<SheetTeam> = {}) =>
    team(id, name, {
      strip: at(2),
      visits: [{ step: 'floor', atMin: 20 + id }],
      provedMin: 20 + id,
      ...more,
    });
  const of = (turns: Sheet['turns']): Sheet => ({
    ...sheet([
      waits(1, 'Auk'),
      waits(2, 'Crake'),
      waits(3, 'Dunlin', { pinned: 1 }),
      team(4, 'Eider', { strip: at(0) }),
    ]),
    steps,
    turns,
    run: { ...sheet([]).run, mats: 2, asksTick: true },
  });
  const turn = { id: 9, team: 1, mat: 1, beganMin: 22, endedMin: null, ticked: false };
  function Page({ turns, may = true }: { turns: Sheet['turns']; may?: boolean }) {
    const shown = of(turns);
    return <MatsPanel live={useLive(shown, START + 31 * MINUTE)} running={useRunning(shown)} may={may} />;
  }

  it('shows who is on which mat and for how long, and brings the next with one press', async () => {
    render(<Page turns={[turn]} />, { wrapper: around });
    expect(screen.getByText('1 of 2 free')).toBeTruthy();
    expect(screen.getByText('+2:00').className).toContain('text-fault');
    expect(screen.getByText('cautions not ticked yet')).toBeTruthy();
    expect(screen.getByText('Auk is 2 min over its time on mat 1.')).toBeTruthy();
    const mat = (n: number) => within(screen.getByText(`mat ${n}`).closest('li')!);
    expect(mat(2).getByText('free')).toBeTruthy();
    expect(mat(2).queryByRole('button', { name: 'Done' })).toBeNull();
    // The teacher's place counts for more than the rule.
    await hand().click(mat(2).getByRole('button', { name: 'Dunlin next' }));
    await hand().click(mat(1).getByRole('button', { name: 'Done' }));
    expect(asked).toEqual(['POST /periods/3/turns {"team":3,"mat":2}', 'DELETE /periods/3/turns/9']);
  });

  it('offers a place to those who neither wait nor drive', async () => {
    render(<Page turns={[turn]} />, { wrapper: around });
    const others = screen.getByLabelText('let another team wait');
    expect([...others.querySelectorAll('option')].map((one) => one.textContent)).toEqual([
      'choose a team',
      'Eider',
    ]);
    await hand().selectOptions(others, 'Eider');
    await hand().click(screen.getByRole('button', { name: 'Put Crake to the front' }));
    await hand().click(screen.getByRole('button', { name: 'Dunlin back to the rule' }));
    expect(asked).toEqual([
      'PUT /periods/3/teams/4/pin {"place":3}',
      'PUT /periods/3/teams/2/pin {"place":1}',
      'PUT /periods/3/teams/3/pin {"place":null}',
    ]);
  });

  it('is only looked at by who may not', () => {
    render(<Page turns={[turn]} may={false} />, { wrapper: around });
    expect(screen.queryAllByRole('button')).toEqual([]);
    expect(screen.getByText('Auk')).toBeTruthy();
  });
});

describe('everybody', () => {
  function Page({ run }: { run: Partial<Sheet['run']> }) {
    const of = sheet([]);
    return <StopAll run={{ ...of.run, ...run }} running={useRunning(of)} />;
  }
  it('is stopped with a sentence, told one, and let go', async () => {
    render(<Page run={{}} />, { wrapper: around });
    expect(screen.queryByRole('dialog')).toBeNull();
    await hand().click(screen.getByRole('button', { name: 'Stop everyone' }));
    expect(screen.getAllByRole('dialog')).toHaveLength(1);
    await hand().click(screen.getByRole('button', { name: 'Stop all tablets' }));
    expect(screen.queryByRole('dialog')).toBeNull();
    await hand().click(screen.getByRole('button', { name: 'Say to all' }));
    // Nothing is said: nothing is sent.
    await hand().click(screen.getByRole('button', { name: 'Show it on all tablets' }));
    await hand().type(screen.getByLabelText('what all tablets say'), 'Five more minutes');
    await hand().click(screen.getByRole('button', { name: 'Show it on all tablets' }));
    cleanup();
    render(<Page run={{ stopped: 'Stop.', told: { says: 'Five', at: START } }} />, { wrapper: around });
    await hand().click(screen.getByRole('button', { name: 'Let them go on' }));
    await hand().click(screen.getByRole('button', { name: 'Take the sentence off' }));
    expect(asked).toEqual([
      'PATCH /periods/3/run {"stopped":"Stop. Hands off the robot, eyes to the front."}',
      'PATCH /periods/3/run {"told":"Five more minutes"}',
      'PATCH /periods/3/run {"stopped":null}',
      'PATCH /periods/3/run {"told":null}',
    ]);
  });
});

describe('the bar on a team’s tablet', () => {
  const own = sheet([]).hour;
  const hour = (more: Partial<TeamHour>): TeamHour => ({
    now: START + 30 * MINUTE,
    hour: own,
    run: { stopped: null, told: null, turnMin: 4, asksTick: true },
    steps,
    at: { step: 'floor', sinceMin: 20 },
    finding: null,
    notes: [],
    call: null,
    mat: null,
    ...more,
  });
  const show = (of: TeamHour, path = '/teams/1/lessons/tide-line/read') => {
    const client = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity } } });
    client.setQueryData(keys.me, { role: 'team', team: { id: 1, class: '7 Auk' } });
    client.setQueryData(keys.teamHour(1), of, { updatedAt: START + 31 * MINUTE });
    return render(
      <QueryClientProvider client={client}>
        <MemoryRouter initialEntries={[path]}>
          <TeamBar team={1} />
        </MemoryRouter>
      </QueryClientProvider>,
    );
  };
  const onMat: TeamHour['mat'] = {
    is: 'on',
    turn: 9,
    mat: 2,
    beganMin: 26,
    ticked: false,
    cautions: ['The cable is out.'],
    step: 'floor',
  };

  it('leads to its mat, and ticks the cautions first', async () => {
    show(hour({ mat: onMat }));
    const turn = within(screen.getByRole('region', { name: 'Your turn' }));
    expect(turn.getByText('2:00 left')).toBeTruthy();
    expect(turn.getByText('The cable is out.')).toBeTruthy();
    expect(turn.getByRole('link', { name: 'Go to Floor' }).getAttribute('href')).toBe(
      '/teams/1/lessons/tide-line/floor',
    );
    await hand().click(turn.getByRole('button', { name: 'All of this is so: we start' }));
    expect(asked).toEqual(['PUT /teams/1/hour/turns/9/tick {}']);
    cleanup();
    show(hour({ mat: { ...onMat, ticked: true, beganMin: 20 } }), '/teams/1/lessons/tide-line/floor');
    const there = within(screen.getByRole('region', { name: 'Your turn' }));
    expect(there.queryByRole('link')).toBeNull();
    expect(there.queryByRole('button')).toBeNull();
    expect(there.getByText('time is up')).toBeTruthy();
  });

  it('says which place it has in the queue, and nothing of mats where it has none', () => {
    for (const [place, word] of [
      [1, 'next'],
      [2, '2nd'],
      [3, '3rd'],
      [4, '4th'],
    ] as const) {
      show(hour({ mat: { is: 'waiting', place, of: 4, fromMin: 30 } }));
      expect(screen.getByText(word)).toBeTruthy();
      expect(screen.queryByRole('region', { name: 'Your turn' })).toBeNull();
      cleanup();
    }
    show(hour({}));
    expect(screen.queryByText(/^mat/)).toBeNull();
  });

  it('calls the teacher with what was found, a usual reason or its own words', async () => {
    show(hour({ finding: 'The plug is in K4.' }));
    await hand().click(screen.getByRole('button', { name: 'We are stuck' }));
    const dialog = within(screen.getByRole('dialog'));
    expect(dialog.getAllByRole('listitem')[0]!.textContent).toBe('The plug is in K4.');
    expect(dialog.getByRole('button', { name: 'Call the teacher' })).toHaveProperty('disabled', true);
    await hand().type(dialog.getByLabelText('in our own words'), ' It hums. {Enter}');
    expect(asked).toEqual(['PUT /teams/1/hour/call {"about":"It hums."}']);
    expect(screen.queryByRole('dialog')).toBeNull();
  });

  it('shows a sentence to all until it was read, and stands still while everybody stops', async () => {
    show(
      hour({
        run: { stopped: 'Stop.', told: { says: 'Five more', at: START }, turnMin: 4, asksTick: false },
      }),
    );
    expect(screen.getByRole('dialog', { name: 'Everybody stops' }).textContent).toContain('Stop.');
    cleanup();
    show(
      hour({ run: { stopped: null, told: { says: 'Five more', at: START }, turnMin: 4, asksTick: false } }),
    );
    expect(screen.queryByRole('dialog')).toBeNull();
    expect(screen.getByText('Five more')).toBeTruthy();
    await hand().click(screen.getByRole('button', { name: 'Read' }));
    expect(screen.queryByText('Five more')).toBeNull();
  });

  it('knows how long a step has left, and is not there without an hour', () => {
    show(hour({}));
    expect(screen.getByText('12 min left for it')).toBeTruthy();
    cleanup();
    show(hour({ at: { step: 'read', sinceMin: 10 } }), '/teams/1/lessons/tide-line/script');
    expect(screen.getByText('8 min over the plan')).toBeTruthy();
    cleanup();
    const { container } = show(hour({ hour: null, run: null }));
    expect(container.textContent).toBe('');
  });
});

describe('the projector', () => {
  const board = (more: Partial<PublicBoard>): PublicBoard => ({
    now: START + 30 * MINUTE,
    class: '7 Kittiwake',
    school: 'Harbour',
    hour: sheet([]).hour,
    run: { stopped: null, told: null, turnMin: 4, mats: 2 },
    steps,
    teams: [{ id: 1, name: 'Auk', strip: at(1) }],
    turns: [],
    queue: [],
    ...more,
  });
  const show = (of: PublicBoard) => {
    const client = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity } } });
    client.setQueryData(keys.board, of, { updatedAt: START + 31 * MINUTE });
    return render(
      <QueryClientProvider client={client}>
        <MemoryRouter>
          <BoardPage />
        </MemoryRouter>
      </QueryClientProvider>,
    );
  };

  it('shows the mats and who is next where there are mats', () => {
    show(board({ queue: [{ team: 1, fromMin: 30 }] }));
    const mats = within(screen.getByRole('region', { name: 'Mats' }));
    expect(mats.getAllByText('free')).toHaveLength(2);
    expect(mats.getByText('Auk')).toBeTruthy();
    cleanup();
    show(board({ run: { stopped: null, told: null, turnMin: 4, mats: 0 } }));
    expect(screen.queryByRole('region', { name: 'Mats' })).toBeNull();
    expect(screen.getByRole('rowheader', { name: 'Auk' })).toBeTruthy();
  });
});
