import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type {
  ClassDetail,
  Kits,
  Period,
  RobotDetail,
  RobotEntry,
  School,
  Today,
} from '@vigilum/contract/types';
import { kitLike, usualParts } from '@vigilum/core/sensing';
import { cobble } from '../starter/cobble.ts';
import { demoApp, NOW, type DemoApp } from './harness.ts';

const clock = { now: NOW };
let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp(clock);
}, 60_000);
afterAll(() => demo.close());

const get = async <T>(path: string, status = 200) => (await demo.api.get(path).expect(status)).body as T;
interface Answer {
  id: number;
  ids: number[];
  names: string[];
  detail: string;
}
const said = ({ text }: { text: string }) => (text === '' ? {} : JSON.parse(text)) as Answer;
const post = async (path: string, body: object, status = 201) =>
  said(await demo.api.post(path).send(body).expect(status));
const patch = async (path: string, body: object, status = 204) =>
  said(await demo.api.patch(path).send(body).expect(status));
const away = async (path: string, status = 204) => said(await demo.api.delete(path).expect(status));
const back = (path: string, status = 204) => post(`${path}/restoration`, {}, status);
const klass = (id: number) => get<ClassDetail>(`/api/classes/${id}`);
const robotsOf = async (id: number) => (await klass(id)).members.map(({ robot }) => robot.name);
const robots = async () => (await get<{ robots: RobotEntry[] }>('/api/robots')).robots;
const board = async (period: number) =>
  (await get<{ period: Period }>(`/api/periods/${period}`)).period.teams.map(({ name }) => name);

const heronIn = (cupboard: string, take: 'those there' | 'new' = 'those there') => ({
  kit: 'heron',
  cupboard,
  take,
});
const made = kitLike(cobble, {
  slug: 'heron',
  name: 'Heron',
  parts: [...cobble.sensors, ...usualParts.filter(({ id }) => /infrared|beacon/.test(id))],
  sockets: 'S1 S2 S3 S4 S5 S6',
});

describe('a first day with a kit of one’s own', () => {
  it('leads from the school to a class whose robots carry all six sensors', async () => {
    await demo.api.put('/api/school').send({ name: ' Own School ' }).expect(204);
    expect((await get<School>('/api/school')).name).toBe('Own School');
    if (!made.ok) throw new Error(made.says);
    await post('/api/kits', made.value);
    const { names } = await post('/api/robots', {
      name: 'Heron',
      kit: 'heron',
      standIn: true,
      cupboard: 'Room 12',
      count: 8,
    });
    expect(names).toEqual(Array.from({ length: 8 }, (_, i) => `Heron ${i + 1}`));
    const teams = ['Ara', 'Bex', 'Cod', 'Dor', 'Eel', 'Fin', 'Gar', 'Hoy'];
    const { id } = await post('/api/classes', {
      school: 'Own School',
      name: '5 Rock',
      teams,
      robots: heronIn('room 12'),
    });
    expect((await klass(id)).members.map(({ name, robot }) => [name, robot.name])).toEqual(
      teams.map((team, i) => [team, `Heron ${i + 1}`]),
    );
    const [one] = (await robots()).filter(({ kit }) => kit.slug === 'heron');
    expect(one!.build.fittings.map(({ socket }) => socket)).toEqual(['S1', 'S2', 'S3', 'S4', 'S5', 'S6']);
    const { kits } = await get<Kits>('/api/kits');
    expect(kits.find(({ kit }) => kit.slug === 'heron')!.usual).toEqual(one!.build);
    // The light lesson is ready to be read: every team's sensor is on its socket.
    await post('/api/periods', { classId: id, lesson: 'tide-line', minutes: 50 });
    const { periods } = await get<Today>('/api/today');
    const own = periods.find((period) => period.class.name === '5 Rock')!;
    expect(own.teams.map(({ help }) => help)).toEqual(teams.map(() => null));
  });

  it('shares the robots with a second class, and adds what is missing', async () => {
    const { id } = await post('/api/classes', {
      school: 'Own School',
      name: '6 Rock',
      teams: Array.from({ length: 10 }, (_, i) => `Team ${i}`),
      robots: heronIn('Room 12'),
    });
    expect(await robotsOf(id)).toEqual(Array.from({ length: 10 }, (_, i) => `Heron ${i + 1}`));
    const own = await post('/api/classes', {
      school: 'Own School',
      name: '7 Rock',
      teams: ['Jay', 'Kea'],
      robots: heronIn('', 'new'),
    });
    expect(await robotsOf(own.id)).toEqual(['Heron 11', 'Heron 12']);
    const { detail } = await post(
      '/api/classes',
      { school: 'Own School', name: '8 Rock', teams: ['A'], robots: { ...heronIn(''), kit: 'none' } },
      422,
    );
    expect(detail).toMatch(/there is no kit “none”/);
  });

  it('counts on after a robot that somebody called like the next one', async () => {
    await post('/api/robots', { name: 'heron 15', kit: 'heron', standIn: true });
    const { names } = await post('/api/robots', { name: 'Heron', kit: 'heron', standIn: true, count: 2 });
    expect(names).toEqual(['Heron 16', 'Heron 17']);
    await post('/api/robots', { name: 'HERON 16', kit: 'heron', standIn: true }, 409);
    await post('/api/robots', { name: 'Heron', kit: 'heron', standIn: true, count: 41 }, 422);
  });
});

describe('classes', () => {
  const add = (name: string, teams = ['Ash', 'Elm']) =>
    post('/api/classes', { school: 'Own School', name, teams, robots: heronIn('Room 12') });

  it('are renamed, but not like another', async () => {
    const { id } = await add('9 Oak');
    await patch(`/api/classes/${id}`, { name: '9 Beech' });
    expect((await klass(id)).name).toBe('9 Beech');
    expect((await patch(`/api/classes/${id}`, { name: '5 rock' }, 409)).detail).toMatch(
      /Own School has a class 5 rock already/,
    );
    await patch(`/api/classes/${id}`, { name: '9 beech' });
    await patch(`/api/classes/${id}`, {}, 422);
    await patch('/api/classes/999', { name: 'x' }, 404);
  });

  it('are put away and brought back, and keep their hours', async () => {
    const { id } = await add('9 Alder');
    await patch(`/api/classes/${id}`, { archived: true });
    const listed = async () =>
      (await get<{ classes: { id: number; archived: boolean }[] }>('/api/classes')).classes.find(
        (one) => one.id === id,
      );
    expect((await listed())?.archived).toBe(true);
    await get(`/api/classes/${id}/hours`);
    await patch(`/api/classes/${id}`, { archived: false });
    expect((await listed())?.archived).toBe(false);
  });

  it('are removed with their hours out of sight, and brought back unless the name is taken meanwhile', async () => {
    const { id } = await add('9 Yew');
    const hour = await post('/api/periods', { classId: id, lesson: 'tide-line', minutes: 50 });
    const shown = async () => (await get<Today>('/api/today')).periods.some((one) => one.id === hour.id);
    expect(await shown()).toBe(true);
    await away(`/api/classes/${id}`);
    expect(await shown()).toBe(false);
    await get(`/api/classes/${id}`, 404);
    await post('/api/periods', { classId: id, lesson: 'tide-line', minutes: 50 }, 404);
    const other = await add('9 Yew');
    expect((await back(`/api/classes/${id}`, 409)).detail).toMatch(/has a class 9 Yew already/);
    await away(`/api/classes/${other.id}`);
    await back(`/api/classes/${id}`);
    expect(await shown()).toBe(true);
  });

  it('are copied with teams and robots and without their record', async () => {
    const [first] = (await get<Today>('/api/today')).periods.filter(
      ({ class: of }) => of.name === '7 Kittiwake',
    );
    const { id } = await post(`/api/classes/${first!.class.id}/copies`, { name: '8 Kittiwake' });
    expect(await robotsOf(id)).toEqual(await robotsOf(first!.class.id));
    const hour = await post('/api/periods', { classId: id, lesson: 'tide-line', minutes: 50 });
    const { period } = await get<{ period: Period }>(`/api/periods/${hour.id}`);
    expect(period.teams.every(({ current, lastAt }) => current === 'wire' && lastAt === null)).toBe(true);
    await post(`/api/classes/${id}/copies`, { name: '7 kittiwake' }, 409);
  });
});

describe('teams', () => {
  it('that left stay on the boards of the hours they were in; that came later are not on those', async () => {
    const { id } = await post('/api/classes', {
      school: 'Own School',
      name: '4 Reed',
      teams: ['Ivy', 'Rue', 'Sage'],
      robots: heronIn('Room 12'),
    });
    const hour = await post('/api/periods', { classId: id, lesson: 'tide-line', minutes: 50 });
    const [ivy, rue] = (await klass(id)).members;
    // While the hour goes on, who is removed is off its board, and back by undo.
    await away(`/api/teams/${rue!.id}`);
    expect(await board(hour.id)).toEqual(['Ivy', 'Sage']);
    await back(`/api/teams/${rue!.id}`);
    expect(await board(hour.id)).toEqual(['Ivy', 'Rue', 'Sage']);
    await patch(`/api/periods/${hour.id}`, { action: 'end' }, 200);
    clock.now = new Date(NOW.getTime() + 3_600_000);
    await away(`/api/teams/${rue!.id}`);
    await post(`/api/classes/${id}/teams`, { teams: ['Tansy'], robots: heronIn('Room 12') });
    const later = await post('/api/periods', { classId: id, lesson: 'tide-line', minutes: 50 });
    expect([await board(hour.id), await board(later.id)]).toEqual([
      ['Ivy', 'Rue', 'Sage'],
      ['Ivy', 'Sage', 'Tansy'],
    ]);
    await patch(`/api/teams/${ivy!.id}`, { name: 'tansy' }, 409);
    await patch(`/api/teams/${ivy!.id}`, { name: 'Ivy League' });
    expect((await klass(id)).members[0]!.name).toBe('Ivy League');
  });

  it('move to another class with their robot; what they did stays with the class they leave', async () => {
    const [from, to] = await Promise.all(
      ['4 Sedge', '4 Moss'].map((name) =>
        post('/api/classes', {
          school: 'Own School',
          name,
          teams: [`${name} one`, `${name} two`],
          robots: heronIn('Room 12'),
        }),
      ),
    );
    const [team] = (await klass(from!.id)).members;
    const moved = await post(`/api/teams/${team!.id}/moves`, { class: to!.id });
    expect((await klass(from!.id)).members.map(({ name }) => name)).toEqual(['4 Sedge two']);
    const there = (await klass(to!.id)).members.find(({ id }) => id === moved.id)!;
    // The two classes share robots: what a team there drives already is not driven by two.
    expect([there.name, there.robot.name]).toEqual([team!.name, 'Heron 3']);
    expect(new Set(await robotsOf(to!.id)).size).toBe(3);
    await post(`/api/teams/${moved.id}/moves`, { class: to!.id }, 409);
    await post(`/api/teams/${moved.id}/moves`, { class: 999 }, 404);
    // Undone: out of the one, back into the other.
    await away(`/api/teams/${moved.id}`);
    await back(`/api/teams/${team!.id}`);
    expect((await klass(from!.id)).members).toHaveLength(2);
  });

  it('that come back find another robot where theirs was given away', async () => {
    const { id } = await post('/api/classes', {
      school: 'Own School',
      name: '4 Fen',
      teams: ['Oat', 'Rye'],
      robots: heronIn('Room 12'),
    });
    const [oat] = (await klass(id)).members;
    await away(`/api/teams/${oat!.id}`);
    await post(`/api/classes/${id}/teams`, { teams: ['Bean'], robots: heronIn('Room 12') });
    expect(await robotsOf(id)).toContain(oat!.robot.name);
    await back(`/api/teams/${oat!.id}`);
    await back(`/api/teams/${oat!.id}`);
    expect(new Set(await robotsOf(id)).size).toBe(3);
  });

  it('are twenty at most', async () => {
    const twenty = Array.from({ length: 20 }, (_, i) => `T${i}`);
    const { id } = await post('/api/classes', {
      school: 'Own School',
      name: '3 Full',
      teams: twenty,
      robots: heronIn('Room 12'),
    });
    const more = { teams: ['One more'], robots: heronIn('Room 12') };
    expect((await post(`/api/classes/${id}/teams`, more, 422)).detail).toMatch(/at most 20 teams/);
  });
});

describe('robots', () => {
  const byName = async (name: string) => (await robots()).find((robot) => robot.name === name)!;

  it('are copied without what is odd about them, moved to another cupboard, and put away', async () => {
    const plover = await byName('Cobble 2');
    const { names, id } = await post(`/api/robots/${plover.id}/copies`, { count: 1 });
    expect(names).toEqual(['Cobble 9']);
    const copy = (await robots()).find((robot) => robot.id === id)!;
    expect([copy.cupboard, copy.build.fittings, copy.build.quirks]).toEqual([
      plover.cupboard,
      plover.build.fittings,
      undefined,
    ]);
    await patch(`/api/robots/${id}`, { cupboard: 'cellar', archived: true });
    expect(await byName('Cobble 9')).toMatchObject({ cupboard: 'cellar', archived: true });
    // What is put away is given to no class: it gets a new one.
    const own = await post('/api/classes', {
      school: 'Own School',
      name: '2 Clay',
      teams: ['Mud'],
      robots: { kit: 'cobble', cupboard: 'cellar', take: 'those there' },
    });
    expect(await robotsOf(own.id)).toEqual(['Cobble 10']);
    await patch(`/api/robots/${id}`, { archived: false });
    expect((await byName('Cobble 9')).archived).toBe(false);
  });

  it('are changed from a revision: who works from an older one is told, and overwrites nothing', async () => {
    const { id, build } = await byName('Cobble 3');
    const at = `/api/robots/${id}`;
    const { revision } = await get<RobotDetail>(at);
    await patch(at, { revision, build: { ...build, trackMm: 121 } });
    const late = await patch(at, { revision, build: { ...build, trackMm: 130 } }, 409);
    expect(late.detail).toMatch(/Somebody else saved this robot meanwhile/);
    const now = await get<RobotDetail>(at);
    expect([now.build.trackMm, now.revision]).toEqual([121, revision + 1]);
    // A plug that is moved counts as well; putting away is no change of the build.
    await demo.api.patch(`${at}/fittings/K3`).send({ heightMm: 13 }).expect(200);
    await patch(at, { revision: now.revision, build }, 409);
    const { revision: before } = await get<RobotDetail>(at);
    await patch(at, { archived: false });
    await patch(at, { revision: before, build });
  });

  it('are removed and brought back, but not while a team drives them', async () => {
    const driven = await byName('Cobble 1');
    const { detail } = await away(`/api/robots/${driven.id}`, 409);
    expect(detail).toMatch(/Cobble 1 is driven by .*Gannet/);
    const spare = await byName('Heron 16');
    await away(`/api/robots/${spare.id}`);
    await get(`/api/robots/${spare.id}`, 404);
    await back(`/api/robots/${spare.id}`);
    expect(await byName('Heron 16')).toBeDefined();
  });
});
