/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, it } from '@jest/globals';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { cleanup, render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import type { ReactElement } from 'react';
import { MemoryRouter, Outlet, Route, Routes } from 'react-router';
import type { SeriesPreview, YearPlan } from '@vigilum/contract/types';
import { ClashPanel } from './ClashPanel.tsx';
import CupboardPage from './CupboardPage.tsx';
import { HourPanel } from './HourPanel.tsx';
import { at, hourOf, lessonOf, meetingOf, planOf, thingOf } from './test/planOf.ts';
import SeriesPage from './SeriesPage.tsx';
import SkillsPage from './SkillsPage.tsx';
import { useDerived } from './usePlan.ts';

/** What was asked of the server, and what it answers by method and path. */
let asked: { what: string; body: unknown }[];
let answers: Record<string, unknown>;
beforeEach(() => {
  asked = [];
  answers = {};
  globalThis.fetch = ((input: string, init?: RequestInit) => {
    const what = `${init?.method ?? 'GET'} ${input.replace('/api', '')}`;
    if (init?.method !== undefined && init.method !== 'GET')
      asked.push({ what, body: typeof init.body === 'string' ? (JSON.parse(init.body) as unknown) : null });
    const answer = answers[what];
    return Promise.resolve({
      status: answer === undefined ? 204 : 200,
      ok: true,
      json: () => Promise.resolve(answer),
    } as Response);
  }) as typeof fetch;
});
afterEach(cleanup);

const draw = (page: ReactElement, plan: YearPlan) =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <Routes>
          <Route element={<Outlet context={plan} />}>
            <Route path="*" element={page} />
          </Route>
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
const button = (name: string | RegExp) => screen.getByRole('button', { name });

describe('the cupboard', () => {
  const plan = planOf({
    things: [
      thingOf('kit-cobble', {
        kind: 'robots',
        name: 'Cobble robots',
        row: null,
        count: 3,
        broken: 1,
        beforeMin: 15,
      }),
      thingOf('mat-1', { name: 'harbour mat', count: 1 }),
    ],
    robots: [
      { id: 1, name: 'Cobble 1', kit: 'cobble', cupboard: '', away: null },
      { id: 2, name: 'Cobble 2', kit: 'cobble', cupboard: '', away: 'broken' },
      { id: 3, name: 'Skiff 1', kit: 'skiff', cupboard: '', away: null },
    ],
    meetings: [meetingOf(11, at(1)), meetingOf(12, at(8))],
    hours: [
      hourOf(4, 11, at(1), { takes: [{ thing: 'mat-1', count: 2 }] }),
      hourOf(5, 12, at(8), { takes: [{ thing: 'kit-cobble', count: 2 }] }),
    ],
  });

  it('packs for this week from Monday to Sunday, and for the next', async () => {
    draw(<CupboardPage />, planOf({ ...plan, now: at(6) }));
    expect(screen.getByText('Mon 23 Nov to Sun 29 Nov')).toBeTruthy();
    expect(button('This week').getAttribute('aria-pressed')).toBe('true');
    // More than is there.
    expect(screen.getByText('✕ 2 ×')).toBeTruthy();
    await userEvent.click(button('Next week'));
    expect(screen.getByText('Mon 30 Nov to Sun 6 Dec')).toBeTruthy();
    expect(screen.getByText('2 ×')).toBeTruthy();
    expect(button('Next week').getAttribute('aria-pressed')).toBe('true');
  });

  it('takes as many away as there are, and no more', async () => {
    draw(<CupboardPage />, plan);
    expect(button('One more thing')).toBeTruthy();
    await userEvent.click(button('Change harbour mat'));
    expect(screen.queryByRole('button', { name: 'One more thing' })).toBeNull();
    const count = screen.getByLabelText('how many');
    const broken = screen.getByLabelText('broken');
    const save = within(screen.getByRole('table')).getByRole<HTMLButtonElement>('button', { name: 'Save' });
    await userEvent.type(broken, '{Backspace}1');
    expect(save.disabled).toBe(false);
    expect(screen.queryByText(/More are broken or out/)).toBeNull();
    await userEvent.type(screen.getByLabelText('out'), '{Backspace}1');
    expect(screen.getByText(/More are broken or out than there are/)).toBeTruthy();
    await userEvent.type(count, '{Backspace}x');
    expect(screen.queryByText(/More are broken or out/)).toBeNull();
    expect(save.disabled).toBe(true);
    await userEvent.type(count, '{Backspace}2');
    await userEvent.click(save);
    expect(asked).toEqual([
      {
        what: 'PUT /things/7',
        body: {
          kind: 'mat',
          name: 'harbour mat',
          shelf: 'A2',
          count: 2,
          broken: 1,
          out: 1,
          beforeMin: 5,
          afterMin: 10,
        },
      },
    ]);
    await waitFor(() => expect(screen.queryByLabelText('how many')).toBeNull());
  });

  it('says of each robot of a kit whether it is here', async () => {
    draw(<CupboardPage />, plan);
    await userEvent.click(button('Which Cobble robots are here'));
    expect(screen.queryByText('Skiff 1')).toBeNull();
    const of = (name: string) => within(screen.getByRole('group', { name: `${name} is` }));
    expect(of('Cobble 1').getByRole('button', { pressed: true }).textContent).toBe('here');
    expect(of('Cobble 2').getByRole('button', { pressed: true }).textContent).toBe('broken');
    await userEvent.click(of('Cobble 1').getByRole('button', { name: 'out' }));
    await userEvent.click(of('Cobble 2').getByRole('button', { name: 'here' }));
    expect(asked).toEqual([
      { what: 'PUT /robots/1/away', body: { away: 'out' } },
      { what: 'PUT /robots/2/away', body: { away: null } },
    ]);
  });

  it('keeps how long robots are laid out', async () => {
    draw(<CupboardPage />, plan);
    const save = screen.getByRole<HTMLButtonElement>('button', { name: 'Save' });
    expect(save.disabled).toBe(true);
    await userEvent.type(screen.getByLabelText('lay robots out, min before'), '0');
    await userEvent.click(save);
    expect(asked).toEqual([{ what: 'PATCH /plan', body: { robotTimes: { beforeMin: 50, afterMin: 15 } } }]);
  });
});

describe('series', () => {
  const own = { id: 5, name: 'Lines', aim: 'To follow lines', lessons: ['first', 'second'], shipped: false };
  const lessons = [
    { ...lessonOf('first', 'First watch', 20), needs: ['team-skill'] },
    { ...lessonOf('second', 'Second watch', 30), gives: ['team-skill'] },
    lessonOf('third', 'Third watch'),
  ];
  const plan = planOf({
    lessons,
    series: [own],
    skills: [{ id: 'team-skill', name: 'reads values', strand: 'measure', needs: [] } as never],
  });

  it('shows its lessons, how long they take, and which come too early', () => {
    draw(<SeriesPage />, plan);
    expect(screen.getByTitle('Comes after: reads values').textContent).toBe('1 △ First watch');
    expect(
      screen.getByText(/^2 lessons, 50 min; by itself △ 1 lesson before what should come first/),
    ).toBeTruthy();
    expect(screen.queryAllByTitle(/^Comes after/)).toHaveLength(1);
  });

  it('is changed and kept as it was typed, without the spaces around', async () => {
    draw(<SeriesPage />, plan);
    await userEvent.click(button('Change'));
    await userEvent.type(screen.getByLabelText('name'), ' and edges ');
    expect(button('First watch earlier')).toHaveProperty('disabled', true);
    expect(button('Second watch later')).toHaveProperty('disabled', true);
    expect(screen.getByText(/before it: reads values/)).toBeTruthy();
    await userEvent.click(button('First watch later'));
    expect(screen.queryByText(/before it: reads values/)).toBeNull();
    await userEvent.selectOptions(screen.getByLabelText('one more lesson'), 'Third watch');
    await userEvent.click(button('First watch out of the series'));
    await userEvent.click(button('Save the series'));
    expect(asked).toEqual([
      {
        what: 'PUT /series/5',
        body: { name: 'Lines and edges', aim: 'To follow lines', lessons: ['second', 'third'] },
      },
    ]);
    await waitFor(() => expect(screen.queryByLabelText('one more lesson')).toBeNull());
  });

  it('comes from a file: what it brings is shown before it is taken in or left', async () => {
    const preview: SeriesPreview = {
      name: 'Edges',
      from: 'Ness School',
      aim: 'To stop in time',
      lessons: [
        { title: 'Pier', is: 'new' },
        { title: 'Quay', is: 'other' },
      ],
      skills: [],
      kits: [],
    } as never;
    answers['POST /series/imports'] = preview;
    const { container } = draw(<SeriesPage />, plan);
    const file = new File(['{"series":1}'], 'edges.series.json', { type: 'application/json' });
    // jsdom's files cannot be read.
    file.text = () => Promise.resolve('{"series":1}');
    const give = () => userEvent.upload(container.querySelector<HTMLInputElement>('input[type=file]')!, file);
    await give();
    const shown = await screen.findByLabelText('A series from a file');
    expect(shown.textContent).toContain('Edges, from Ness School');
    expect(within(shown).getByText(/differs from ours/).className).toBe('text-brass');
    expect(within(shown).getByText('new').className).toBe('text-ink-2');
    await userEvent.click(button('Leave it'));
    expect(screen.queryByLabelText('A series from a file')).toBeNull();
    answers['POST /series/imports'] = { ...preview, from: '' };
    await give();
    expect((await screen.findByLabelText('A series from a file')).textContent).toMatch(
      /^EdgesTo stop in time/,
    );
    await userEvent.click(button('Take it in'));
    await waitFor(() => expect(screen.queryByLabelText('A series from a file')).toBeNull());
    expect(asked.map(({ body }) => (body as { take: boolean }).take)).toEqual([false, false, true]);
  });

  it('is proposed for aims that are ticked, until they are ticked off', async () => {
    draw(<SeriesPage />, plan);
    const aims = within(screen.getByRole('group', { name: 'What they shall come to' }));
    const aim = aims.getByRole<HTMLInputElement>('checkbox', { name: /reads values/ });
    await userEvent.click(aim);
    expect(aim.checked).toBe(true);
    await userEvent.click(aim);
    expect(aim.checked).toBe(false);
    const klass = screen.getByRole<HTMLInputElement>('checkbox', { name: /7 Auk/ });
    expect([klass.checked, screen.queryByLabelText('meetings, 1 to 80')]).toEqual([true, null]);
    await userEvent.click(klass);
    expect(klass.checked).toBe(false);
    expect(screen.getByLabelText('meetings, 1 to 80')).toBeTruthy();
  });
});

describe('a meeting that was chosen', () => {
  const plan = planOf({
    meetings: [
      meetingOf(11, at(1)),
      meetingOf(12, at(8)),
      meetingOf(13, at(15), { lost: 'Storm' }),
      meetingOf(14, at(22)),
    ],
    hours: [
      hourOf(4, 11, at(1)),
      hourOf(5, 12, at(8), { lesson: { slug: 'lanes', title: 'Count the lanes' } }),
    ],
  });
  function Panel({ meeting, hour }: { meeting: number; hour: number | null }) {
    return (
      <HourPanel plan={plan} derived={useDerived(plan)} pick={{ meeting, hour }} choose={() => undefined} />
    );
  }
  const sent = () => asked.map(({ what, body }) => [what, (body as { hours?: unknown }).hours]);
  beforeEach(() => {
    answers['PUT /classes/1/arrangement'] = { hours: [] };
  });

  it('moves its lesson to the open meeting before or after', async () => {
    draw(<Panel meeting={11} hour={4} />, plan);
    expect(button('Earlier')).toHaveProperty('disabled', true);
    await userEvent.click(button('Later'));
    expect(sent()).toEqual([
      [
        'PUT /classes/1/arrangement',
        [
          { what: { hour: 5 }, meeting: 11 },
          { what: { hour: 4 }, meeting: 12 },
        ],
      ],
    ]);
  });

  it('passes over meetings that are lost', async () => {
    draw(<Panel meeting={12} hour={5} />, plan);
    expect(button('Earlier')).toHaveProperty('disabled', false);
    await userEvent.click(button('Later'));
    expect(sent()).toEqual([['PUT /classes/1/arrangement', [{ what: { hour: 5 }, meeting: 14 }]]]);
    cleanup();
    draw(<Panel meeting={14} hour={null} />, plan);
    expect(screen.getByRole('heading', { name: 'No lesson yet' })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Later' })).toBeNull();
  });

  it('takes place after all where it was lost', async () => {
    draw(<Panel meeting={13} hour={null} />, plan);
    expect(screen.getByRole('heading', { name: 'Does not take place' })).toBeTruthy();
    await userEvent.click(button(/It takes place after all/));
    expect(asked[0]!.body).toMatchObject({ lost: [{ meeting: 13, lost: null }] });
  });

  it('takes a lesson in and off, and lets teams share', async () => {
    draw(<Panel meeting={11} hour={4} />, plan);
    await userEvent.click(screen.getByRole('checkbox', { name: 'two teams share a robot' }));
    await userEvent.click(button('Take the lesson off'));
    await waitFor(() => expect(asked).toHaveLength(2));
    await userEvent.selectOptions(
      screen.getByLabelText('put another lesson before it'),
      'Third lesson, 40 min',
    );
    await waitFor(() => expect(asked).toHaveLength(3));
    expect(sent().map(([, hours]) => hours)).toEqual([
      [{ what: { hour: 4 }, meeting: 11, shared: true }],
      [{ what: { hour: 4 }, meeting: null }],
      [
        { what: { lesson: '3' }, meeting: 11 },
        { what: { hour: 4 }, meeting: 12 },
        { what: { hour: 5 }, meeting: 14 },
      ],
    ]);
  });
});

describe('a meeting without its lesson', () => {
  it('is lost for a reason, and for none it is not', async () => {
    const plan = planOf({ meetings: [meetingOf(11, at(1))], hours: [] });
    function Panel() {
      return (
        <HourPanel
          plan={plan}
          derived={useDerived(plan)}
          pick={{ meeting: 11, hour: null }}
          choose={() => undefined}
        />
      );
    }
    answers['PUT /classes/1/arrangement'] = { hours: [] };
    draw(<Panel />, plan);
    expect(button('Lose it')).toHaveProperty('disabled', false);
    await userEvent.clear(screen.getByLabelText('the hour is lost, because'));
    expect(button('Lose it')).toHaveProperty('disabled', true);
    await userEvent.type(screen.getByLabelText('the hour is lost, because'), ' Fair ');
    await userEvent.click(button('Lose it'));
    expect(asked[0]!.body).toMatchObject({ lost: [{ meeting: 11, lost: 'Fair' }] });
  });
});

describe('skills of a school', () => {
  const own = (id: string, name: string) => ({ id, name, shows: 'It does.', needs: [], lessons: ['lanes'] });
  const plan = planOf({ skills: [own('own-reads-values', 'Reads values'), own('own-other', 'Other')] });

  it('get an address of their own, and keep it when they are changed', async () => {
    draw(<SkillsPage />, plan);
    await userEvent.click(button('Add a skill'));
    expect(screen.getByText(/no lesson: you say who has it/)).toBeTruthy();
    await userEvent.type(screen.getByLabelText(/^name/), 'Reads values');
    await userEvent.type(screen.getByLabelText('what shows it'), ' Three in a row ');
    await userEvent.click(screen.getByRole('checkbox', { name: 'Count the lanes' }));
    expect(screen.getByText(/is shown by a proof in 1 lesson/)).toBeTruthy();
    await userEvent.click(button('Save the skill'));
    await waitFor(() => expect(screen.queryByLabelText('what shows it')).toBeNull());
    await userEvent.click(button('Add a skill'));
    await userEvent.type(screen.getByLabelText(/^name/), 'Fresh');
    await userEvent.type(screen.getByLabelText('what shows it'), 'x');
    await userEvent.click(button('Save the skill'));
    await waitFor(() => expect(screen.queryByLabelText('what shows it')).toBeNull());
    await userEvent.click(button('Change Other'));
    await userEvent.click(button('Save the skill'));
    await waitFor(() => expect(asked).toHaveLength(3));
    expect(asked.map(({ what }) => what)).toEqual([
      'PUT /own-skills/own-reads-values-2',
      'PUT /own-skills/own-fresh',
      'PUT /own-skills/own-other',
    ]);
    expect(asked[0]!.body).toEqual({
      name: 'Reads values',
      shows: 'Three in a row',
      needs: [],
      lessons: ['lanes'],
    });
  });
});

describe('what clashes', () => {
  const takes = [{ thing: 'kit-cobble', count: 2 }];
  const of = (count: number) =>
    planOf({
      things: [thingOf('kit-cobble', { kind: 'robots', name: 'Cobble robots', row: null, count })],
      classes: [1, 2].map((id) => ({
        id,
        name: `${id} Auk`,
        teams: 2,
        robots: [{ thing: 'kit-cobble', count: 2 }],
        kits: ['cobble'],
      })),
      meetings: [meetingOf(11, at(1)), meetingOf(21, at(1), { class: 2 })],
      hours: [hourOf(4, 11, at(1), { takes }), hourOf(5, 21, at(1), { class: 2, takes })],
    });
  const shown: number[] = [];
  function Panel({ plan }: { plan: YearPlan }) {
    return (
      <ClashPanel
        plan={plan}
        derived={useDerived(plan)}
        choose={() => undefined}
        show={(day) => void shown.push(day)}
      />
    );
  }

  it('is named with its time, which leads there', async () => {
    const plan = of(3);
    draw(<Panel plan={plan} />, plan);
    expect(screen.getByRole('heading', { name: '1 clash' })).toBeTruthy();
    await userEvent.click(button('Tue 24 Nov, 10:00'));
    expect(shown).toEqual([at(1)]);
  });

  it('is nothing where there is enough', () => {
    const plan = of(4);
    draw(<Panel plan={plan} />, plan);
    expect(screen.getByText('✓ Nothing clashes:')).toBeTruthy();
  });
});
