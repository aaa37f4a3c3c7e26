import { afterAll, beforeAll, expect, it } from '@jest/globals';
import {
  arrangementTo,
  fillFrom,
  insertLesson,
  loseSlot,
  moveLesson,
  regainSlot,
  undoOf,
  type Reordered,
  type Slot,
} from '@vigilum/core/year';
import type { MadeMeetings, YearPlan } from '@vigilum/contract/types';
import { dice } from '../../campaign/bench.ts';
import { demoApp, type DemoApp } from './harness.ts';

// What is done and undone leaves the stored plan as it was, whatever the plan and whatever was done.
let app: DemoApp;
beforeAll(async () => {
  app = await demoApp();
}, 60_000);
afterAll(() => app.close());

const plan = async (): Promise<YearPlan> => ({
  ...((await app.api.get('/api/plan').expect(200)).body as YearPlan),
  now: 0,
});
type Verb = 'post' | 'put' | 'patch' | 'delete';
async function ask<T = unknown>(verb: Verb, path: string, body: object = {}): Promise<T> {
  const call = app.api[verb](`/api${path}`);
  const answer = await (verb === 'delete' ? call : call.send(body));
  if (answer.status >= 300) throw new Error(`${verb} ${path}: ${answer.status} ${answer.text}`);
  return answer.body as T;
}
const slotsOf = ({ meetings, hours }: YearPlan, klass: number): Slot[] =>
  meetings
    .filter((meeting) => meeting.class === klass)
    .map(({ id, lost }) => {
      const hour = hours.find(({ meeting }) => meeting === id);
      return {
        id,
        holds: hour ? { hour: hour.id } : null,
        fixed: hour ? !hour.open : false,
        lost: lost !== null,
      };
    });

type Random = (n: number) => number;
/** Does something to a plan; gives how to undo it, or null where there is nothing to do it with. */
type Change = (year: YearPlan, klass: number, random: Random) => Promise<(() => Promise<unknown>) | null>;
const pick = <T>(of: readonly T[], random: Random): T | undefined => of[random(of.length)];
const made =
  (path: string, body: object): Change =>
  async () => {
    const { id } = await ask<{ id: number }>('post', path, body);
    return () => ask('delete', `${path}/${id}`);
  };
const removed =
  (path: string, of: (year: YearPlan, klass: number) => readonly (number | string | null)[]): Change =>
  async (year, klass, random) => {
    const id = pick(
      of(year, klass).filter((one) => one !== null),
      random,
    );
    if (id === undefined) return null;
    await ask('delete', `${path}/${id}`);
    return () => ask('post', `${path}/${id}/restoration`);
  };
const arranged =
  (after: (slots: Slot[], random: Random, year: YearPlan) => Reordered | null): Change =>
  async (year, klass, random) => {
    const slots = slotsOf(year, klass);
    const found = slots.length === 0 ? null : after(slots, random, year);
    if (!found) return null;
    const change = arrangementTo(slots, found, 'storm');
    const { hours } = await ask<{ hours: number[] }>('put', `/classes/${klass}/arrangement`, change);
    return () => ask('put', `/classes/${klass}/arrangement`, undoOf(year, change, hours));
  };
const anySlot = (slots: Slot[], random: Random) => pick(slots, random)!.id;
const thing = {
  kind: 'mat',
  name: 'Quay mat',
  shelf: 'A',
  count: 2,
  broken: 0,
  out: 0,
  beforeMin: 1,
  afterMin: 2,
};

const changes: Record<string, Change> = {
  'PUT arrangement, moved': arranged((s, r) => {
    const held = s.filter((slot) => slot.holds !== null && !slot.fixed && !slot.lost);
    return held.length === 0 ? null : moveLesson(s, anySlot(held, r), anySlot(s, r));
  }),
  'PUT arrangement, lost': arranged((s, r) => loseSlot(s, anySlot(s, r))),
  'PUT arrangement, regained': arranged((s, r) => {
    const lost = s.filter((slot) => slot.lost);
    return lost.length === 0 ? null : regainSlot(s, anySlot(lost, r));
  }),
  // A lesson whose short name is the number of an hour.
  'PUT arrangement, inserted': arranged((s, r, { hours }) =>
    insertLesson(s, anySlot(s, r), { lesson: r(2) === 0 ? 'tide-line' : String(hours[0]!.id) }),
  ),
  'PUT arrangement, filled': arranged((s, r) => fillFrom(s, anySlot(s, r), ['stop-short', 'first-watch'])),
  'PUT arrangement, shared': async (year, klass, random) => {
    const hour = pick(
      year.hours.filter((one) => one.class === klass && one.open && one.meeting !== null),
      random,
    );
    if (!hour) return null;
    const to = (shared: boolean) =>
      ask('put', `/classes/${klass}/arrangement`, {
        seen: [{ hour: hour.id, meeting: hour.meeting }],
        hours: [{ what: { hour: hour.id }, meeting: hour.meeting, shared }],
      });
    await to(!hour.shared);
    return () => to(hour.shared);
  },
  'PATCH /meetings': async (year, klass, random) => {
    const meeting = pick(
      year.meetings.filter(
        (one) => one.class === klass && !year.hours.some((hour) => hour.meeting === one.id && !hour.open),
      ),
      random,
    );
    if (!meeting) return null;
    const local = (at: number) => new Date(at).toISOString();
    const body = (at: number, minutes: number, room: string | null) => ({
      day: local(at).slice(0, 10),
      at: local(at).slice(11, 16),
      minutes,
      room,
    });
    await ask(
      'patch',
      `/meetings/${meeting.id}`,
      body(meeting.startsAt + 86_400_000 * (1 + random(3)), 45, null),
    );
    // Moving one meeting moves its own hour and no other.
    const now = await plan();
    const others = ({ hours, meetings }: YearPlan) => ({
      hours: hours.filter((hour) => hour.meeting !== meeting.id).sort((a, b) => a.id - b.id),
      meetings: meetings.filter(({ id }) => id !== meeting.id),
    });
    expect(others(now)).toEqual(others(year));
    for (const hour of now.hours.filter((one) => one.meeting === meeting.id))
      expect(hour).toMatchObject({
        minutes: 45,
        startsAt: now.meetings.find(({ id }) => id === meeting.id)!.startsAt,
      });
    return () =>
      ask('patch', `/meetings/${meeting.id}`, body(meeting.startsAt, meeting.minutes, meeting.room));
  },
  'POST /classes/:id/meetings': async (_year, klass, random) => {
    const { ids } = await ask<MadeMeetings>('post', `/classes/${klass}/meetings`, {
      term: null,
      days: [{ day: `2027-05-${10 + random(15)}`, at: '08:05', minutes: 30 }],
      room: null,
    });
    return async () => {
      for (const id of ids) await ask('delete', `/meetings/${id}`);
    };
  },
  'DELETE /meetings': removed('/meetings', ({ meetings, hours }, klass) =>
    meetings.flatMap(({ id, class: of }) =>
      of === klass && !hours.some(({ meeting }) => meeting === id) ? [id] : [],
    ),
  ),
  'POST /periods': async (_year, klass) => {
    const { id } = await ask<{ id: number }>('post', '/periods', {
      classId: klass,
      lesson: 'tide-line',
      minutes: 50,
      startsAt: Date.parse('2027-06-01T10:00Z'),
    });
    return () => ask('delete', `/periods/${id}`);
  },
  'PATCH /periods, moved': async (year, klass, random) => {
    const hour = pick(
      year.hours.filter((one) => one.class === klass && one.open && one.meeting === null),
      random,
    );
    if (!hour) return null;
    await ask('patch', `/periods/${hour.id}`, { startsAt: hour.startsAt + 3_600_000, minutes: 40 });
    return () => ask('patch', `/periods/${hour.id}`, { startsAt: hour.startsAt, minutes: hour.minutes });
  },
  'DELETE /periods': removed('/periods', ({ hours }, klass) =>
    hours.flatMap(({ id, class: of }) => (of === klass ? [id] : [])),
  ),
  'PATCH /plan': async ({ zone, robotTimes }) => {
    await ask('patch', '/plan', { robotTimes: { beforeMin: 9, afterMin: 11 } });
    return () => ask('patch', '/plan', { zone, robotTimes });
  },
  'POST /terms': made('/terms', { name: 'spring', from: '2027-02-01', to: '2027-04-16' }),
  'PUT /terms': async ({ terms }, _klass, random) => {
    const term = pick(terms, random);
    if (!term) return null;
    const put = (body: object) => ask('put', `/terms/${term.id}`, body);
    await put({ name: 'another', from: '2027-01-01', to: '2027-12-31' });
    return () => put({ name: term.name, from: term.from, to: term.to });
  },
  'DELETE /terms': removed('/terms', ({ terms }) => terms.map(({ id }) => id)),
  'POST /days-off': async () => {
    const { ids } = await ask<{ ids: number[] }>('post', '/days-off', {
      days: [{ name: 'far away', from: '2029-07-02', to: '2029-07-03' }],
    });
    return () => ask('delete', `/days-off/${ids[0]}`);
  },
  'DELETE /days-off': removed('/days-off', ({ daysOff }) => daysOff.map(({ id }) => id)),
  'POST /things': made('/things', thing),
  'PUT /things': async ({ things }, _klass, random) => {
    const one = pick(
      things.filter(({ row }) => row !== null),
      random,
    );
    if (!one) return null;
    const { id: _id, row, ...was } = one;
    await ask('put', `/things/${row}`, { ...was, name: 'Another', count: was.count + 3, beforeMin: 7 });
    return () => ask('put', `/things/${row}`, was);
  },
  'DELETE /things': removed('/things', ({ things }) => things.map(({ row }) => row)),
  'PUT /robots/:id/away': async ({ robots }, _klass, random) => {
    const robot = pick(robots, random)!;
    const put = (away: string | null) => ask('put', `/robots/${robot.id}/away`, { away });
    await put(robot.away === 'broken' ? 'out' : 'broken');
    return () => put(robot.away);
  },
  'POST /series': made('/series', { name: 'Own', aim: '', lessons: ['tide-line'] }),
  'PUT /series': async ({ series }, _klass, random) => {
    const { id, shipped: _shipped, ...was } = pick(series, random)!;
    await ask('put', `/series/${id}`, { ...was, name: 'Another', lessons: was.lessons.slice(1) });
    return () => ask('put', `/series/${id}`, was);
  },
  'DELETE /series': removed('/series', ({ series }) => series.map(({ id }) => id)),
  'PUT /own-skills': async (_year, _klass, random) => {
    const skill = `own-quay-${random(1000)}`;
    await ask('put', `/own-skills/${skill}`, { name: 'Quaying', shows: 'quays', needs: [], lessons: [] });
    return () => ask('delete', `/own-skills/${skill}`);
  },
  'DELETE /own-skills': removed('/own-skills', ({ skills }) => skills.map(({ id }) => id)),
};

it('done and undone, the stored plan is the same, over drawn plans', async () => {
  await ask('patch', '/plan', { zone: 'UTC' });
  await ask('put', '/own-skills/own-first', { name: 'First', shows: 'first', needs: [], lessons: [] });
  await ask('post', '/days-off', { days: [{ name: 'inset', from: '2028-03-06', to: '2028-03-06' }] });
  // A lesson whose short name is the number of an hour.
  const [hour] = (await plan()).hours;
  const [{ id }] = (await app.db.query<{ id: number }>(
    `insert into lessons (slug, title, definition) select $1, 'Number', jsonb_set(definition, '{slug}', to_jsonb($1::text)) from lessons where slug = 'tide-line' returning id`,
    [String(hour!.id)],
  )) as [{ id: number }];
  expect(id).toBeGreaterThan(0);
  const random = dice(33);
  const tried: Record<string, number> = {};
  for (let round = 0; round < 6; round++) {
    const classes = (await plan()).classes.map((one) => one.id);
    for (const [name, change] of Object.entries(changes)) {
      const klass = classes[random(classes.length)]!;
      const before = await plan();
      const undo = await change(before, klass, random).catch((error: unknown) => {
        throw new Error(`${name}: ${String(error)}`);
      });
      if (!undo) continue;
      tried[name] = (tried[name] ?? 0) + 1;
      await undo();
      expect([name, await plan()]).toEqual([name, before]);
    }
    // Another plan for the next round: a few changes that stay.
    for (const klass of classes) await changes['PUT arrangement, lost']!(await plan(), klass, random);
    for (let i = 0; i < 4; i++) {
      const names = Object.keys(changes).filter((one) =>
        /arrangement|meetings|POST \/(periods|terms)/.test(one),
      );
      await changes[names[random(names.length)]!]!(await plan(), classes[random(classes.length)]!, random);
    }
  }
  const missing = Object.keys(changes).filter((name) => !tried[name]);
  console.log(`${Object.values(tried).reduce((a, b) => a + b, 0)} changes undone: ${JSON.stringify(tried)}`);
  expect(missing).toEqual([]);
}, 180_000);
