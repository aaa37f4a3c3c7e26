import { beforeEach, describe, expect, it } from '@jest/globals';
import { QueryClient, QueryObserver } from '@tanstack/react-query';
import type { Workspace } from '@vigilum/contract/types';
import type { StoredSet } from '@vigilum/core/classroom';
import { keys } from './keys.ts';
import {
  putCheck,
  putNote,
  putPlace,
  putQuickLooks,
  putScript,
  putSet,
  putThreshold,
  putTrial,
  putTry,
} from './patches.ts';

let client: QueryClient;
const sensor = { wireCheck: null, sets: [], quickLooks: [], threshold: null, sweep: null, touch: null };
const workspace = (team: number, robot: number) =>
  ({
    team: { id: team, name: `team ${team}` },
    robot: { id: robot, name: `robot ${robot}`, standIn: true },
    lesson: { need: { socket: 'K3', kind: 'light', name: 'floor' } },
    sensors: { K3: sensor },
    script: null,
    tries: [],
    proof: null,
    trials: [],
    place: null,
    notes: {},
  }) as unknown as Workspace;
const set = (surface: string, id: number, more: Partial<StoredSet> = {}): StoredSet => ({
  id,
  socket: 'K3',
  kind: 'light',
  surface,
  values: [id],
  truth: null,
  lightNote: '',
  at: id,
  ...more,
});
const of = (team: number, lesson = 'tide-line') =>
  client.getQueryData<Workspace>(keys.workspace(team, lesson))!;

const mine = { team: 1, lesson: 'tide-line' };

beforeEach(() => {
  client = new QueryClient();
  client.setQueryData(keys.workspace(1, 'tide-line'), workspace(1, 9));
  client.setQueryData(keys.workspace(1, 'stop-short'), workspace(1, 9));
  client.setQueryData(keys.workspace(2, 'tide-line'), workspace(2, 8));
  client.setQueryData(keys.versions(1, 'tide-line'), { versions: [] });
});

describe('the answer of a save', () => {
  it('is not undone by an answer that was asked for before it and comes after it', async () => {
    const answers: ((data: Workspace) => void)[] = [];
    const queryKey = keys.workspace(1, 'tide-line');
    const observer = new QueryObserver<Workspace>(client, {
      queryKey,
      staleTime: Infinity,
      queryFn: () => new Promise<Workspace>((done) => answers.push(done)),
    });
    const stop = observer.subscribe(() => {});
    void observer.refetch();
    putPlace(client, 1, 'tide-line', 'read');
    expect(answers.length).toBe(2);
    answers[0]!(workspace(1, 9));
    await new Promise((done) => setTimeout(done, 5));
    expect(of(1).place).toBe('read');
    answers[1]!({
      ...workspace(1, 9),
      place: 'read',
      notes: { predict: { text: 'x', revision: 1 } },
    });
    await new Promise((done) => setTimeout(done, 5));
    expect(of(1)).toMatchObject({ place: 'read', notes: { predict: { text: 'x' } } });
    stop();
  });

  it('stands where pages show it: a set of readings in the lesson that it was read in, and in no other', () => {
    putSet(client, 9, mine, set('tide line', 1));
    putSet(client, 9, mine, set('quay', 2));
    putSet(client, 9, mine, set('tide line', 3));
    expect(of(1).sensors.K3!.sets.map(({ id }) => id)).toEqual([2, 3]);
    expect(of(1, 'stop-short').sensors.K3!.sets).toEqual([]);
    expect(of(2).sensors.K3!.sets).toEqual([]);
  });

  it('of a reading that was taken on the robot’s page is asked for again: the server knows whose hour it is', () => {
    const stale = (team: number, lesson: string) =>
      client.getQueryState(keys.workspace(team, lesson))!.isInvalidated;
    putSet(client, 9, null, set('tide line', 1));
    expect([stale(1, 'tide-line'), stale(1, 'stop-short'), stale(2, 'tide-line')]).toEqual([
      true,
      true,
      false,
    ]);
    expect(of(1).sensors.K3!.sets).toEqual([]);
  });

  it('keeps sets at other true values, and leaves out what the lesson’s sensor does not measure', () => {
    putSet(client, 9, mine, set('ruler', 1, { truth: 10 }));
    putSet(client, 9, mine, set('ruler', 2, { truth: 20 }));
    putSet(client, 9, mine, set('tide line', 3, { kind: 'colour' }));
    expect(of(1).sensors.K3!.sets.map(({ id }) => id)).toEqual([1, 2]);
  });

  it('of a threshold, a check or quick looks changes that sensor alone', () => {
    putThreshold(client, 9, mine, 'k3', {
      id: 1,
      value: 49,
      method: 'halfway',
      compare: 'level',
      leave: null,
      reason: '',
      at: 5,
    });
    putCheck(client, 9, 'K3', { reacts: true, at: 6 });
    putQuickLooks(client, 9, mine, 'K3', { surface: 'tide line', values: [1], at: 7 });
    putQuickLooks(client, 9, mine, 'K3', { surface: 'tide line', values: [2], at: 8 });
    putCheck(client, 9, 'K6', { reacts: false, at: 9 });
    expect(of(1).sensors.K3).toMatchObject({
      threshold: { value: 49 },
      wireCheck: { reacts: true },
      quickLooks: [{ values: [2] }],
    });
    expect(Object.keys(of(1).sensors)).toEqual(['K3']);
  });

  it('of a trial stands in the order in which trials were driven, once', () => {
    const trial = (id: number, at: number) => ({ id, at }) as never;
    putTrial(client, 1, 'tide-line', trial(5, 500));
    putTrial(client, 1, 'tide-line', trial(6, 100));
    putTrial(client, 1, 'tide-line', trial(5, 500));
    expect(of(1).trials.map(({ id }) => id)).toEqual([6, 5]);
    expect(of(1, 'stop-short').trials).toEqual([]);
  });

  it('of the ninth try puts the first out', () => {
    for (let id = 1; id <= 9; id++) putTry(client, 1, 'tide-line', { id } as never);
    expect(of(1).tries.map(({ id }) => id)).toEqual([9, 8, 7, 6, 5, 4, 3, 2]);
  });

  it('of a script never puts an older version over a newer one', () => {
    const script = (version: number) => ({ version, sameSince: version, text: `${version}`, at: version });
    putScript(client, 1, 'tide-line', script(3));
    putScript(client, 1, 'tide-line', script(2));
    putScript(client, 1, 'tide-line', null);
    expect(of(1).script!.version).toBe(3);
  });

  it('of a note and a place', () => {
    putNote(client, 1, 'tide-line', 'reflect', { text: 'late', revision: 2 });
    putPlace(client, 1, 'tide-line', 'reflect');
    expect([of(1).notes, of(1).place]).toEqual([{ reflect: { text: 'late', revision: 2 } }, 'reflect']);
  });

  it('leaves the moment at which the server was asked: both clocks are told apart by it', () => {
    const at = () => client.getQueryState(keys.workspace(1, 'tide-line'))!.dataUpdatedAt;
    client.setQueryData(keys.workspace(1, 'tide-line'), workspace(1, 9), { updatedAt: 1234 });
    putSet(client, 9, mine, set('tide line', 1));
    putNote(client, 1, 'tide-line', 'reflect', { text: 'late', revision: 2 });
    expect(at()).toBe(1234);
  });

  it('for a page that is not open changes nothing, and opens nothing', () => {
    putNote(client, 77, 'tide-line', 'reflect', { text: 'late', revision: 2 });
    expect(client.getQueryData(keys.workspace(77, 'tide-line'))).toBeUndefined();
  });
});
