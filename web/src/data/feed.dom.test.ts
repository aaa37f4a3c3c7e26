/** @jest-environment jsdom */
import { afterEach, beforeEach, describe, expect, it, jest } from '@jest/globals';
import { QueryClient, QueryObserver } from '@tanstack/react-query';
import type { Change, ChangeOf, Today } from '@vigilum/contract/types';
import { listen } from './feed.ts';
import { keys } from './keys.ts';
import { PAGE } from './page.ts';

/** The browser's stream of events, which a test speaks into. */
class FakeSource extends EventTarget {
  static all: FakeSource[] = [];
  onopen: (() => void) | null = null;
  onerror: (() => void) | null = null;
  closed = false;
  readonly url: string;
  constructor(url: string) {
    super();
    this.url = url;
    FakeSource.all.push(this);
  }
  close() {
    this.closed = true;
  }
  say(event: string, data: object) {
    this.dispatchEvent(new MessageEvent(event, { data: JSON.stringify(data) }));
  }
}

let client: QueryClient;
let asked: string[];
let stop: () => void;
const after = { revision: null as number | null };
const heard = { opened: 0, lost: 0, missed: 0, changed: [] as Change[] };

const today: Today = {
  now: 1,
  next: [],
  past: [],
  periods: [
    {
      id: 3,
      startsAt: 0,
      minutes: 50,
      first: 3,
      current: true,
      beganAt: 0,
      pausedAt: null,
      pausedS: 0,
      endedAt: null,
      class: { id: 1, name: '7 K', school: 'S' },
      lesson: { slug: 'tide-line', title: 'T', aim: '' },
      teams: [1, 2].map((id) => ({ id, name: `team ${id}` })) as never,
    },
  ],
};

beforeEach(() => {
  jest.useFakeTimers();
  FakeSource.all = [];
  asked = [];
  after.revision = null;
  Object.assign(heard, { opened: 0, lost: 0, missed: 0, changed: [] });
  Object.assign(globalThis, {
    EventSource: FakeSource,
    fetch: (url: string) => {
      asked.push(url);
      const answer = { now: 2, teams: [{ id: 2, name: 'team 2, further' }] };
      return Promise.resolve({ status: 200, ok: true, json: () => Promise.resolve(answer) });
    },
  });
  client = new QueryClient({ defaultOptions: { queries: { retry: false, staleTime: Infinity } } });
  stop = listen(client, after, {
    opened: () => heard.opened++,
    lost: () => heard.lost++,
    missed: () => heard.missed++,
    changed: (change) => heard.changed.push(change),
  });
});
afterEach(() => {
  stop();
  jest.useRealTimers();
});

const pass = async (ms: number) => {
  await jest.advanceTimersByTimeAsync(ms);
};
let revision = 100;
const tell = (change: ChangeOf, by: string | null = 'another page') =>
  FakeSource.all.at(-1)!.say('changed', { ...change, revision: ++revision, by });
/** Shows a query, and counts how often it is asked for. */
const shown = (queryKey: readonly unknown[], data: unknown) => {
  const count = { asked: 0 };
  client.setQueryData(queryKey, data);
  const observer = new QueryObserver(client, {
    queryKey,
    queryFn: () => {
      count.asked++;
      return data;
    },
  });
  observer.subscribe(() => undefined);
  return count;
};

describe('the change feed of a page', () => {
  it('asks once for forty changes of one team, and only for the rows that a board shows', async () => {
    const board = shown(keys.today, today);
    for (let i = 0; i < 40; i++) tell({ what: 'robot', robot: 9, teams: [2], part: 'readings' });
    await pass(300);
    expect(asked).toEqual(['/api/periods/3/board?teams=2']);
    expect(client.getQueryData<Today>(keys.today)!.periods[0]!.teams.map(({ name }) => name)).toEqual([
      'team 1',
      'team 2, further',
    ]);
    expect(board.asked).toBe(0);
  });

  it('asks nothing for what it does not show, nor for what it did itself', async () => {
    const mine = shown(keys.workspace(1, 'tide-line'), {});
    tell({ what: 'evidence', team: 2, lesson: 'tide-line', part: 'trial' });
    tell({ what: 'evidence', team: 1, lesson: 'tide-line', part: 'trial' }, PAGE);
    await pass(1000);
    expect([asked, mine.asked, heard.changed.length]).toEqual([[], 0, 1]);
    tell({ what: 'evidence', team: 1, lesson: 'tide-line', part: 'trial' });
    await pass(1000);
    expect(mine.asked).toBe(1);
  });

  it('takes the stream up where it was left', async () => {
    FakeSource.all[0]!.say('here', { revision: 40 });
    FakeSource.all[0]!.onerror!();
    expect([heard.lost, FakeSource.all[0]!.closed]).toEqual([1, true]);
    await pass(2500);
    expect(FakeSource.all[1]!.url).toBe('/api/events?after=40');
    FakeSource.all[1]!.onopen!();
    expect(heard.opened).toBe(1);
  });

  it('asks again for everything it shows when what was missed cannot be told', async () => {
    const mine = shown(keys.workspace(1, 'tide-line'), {});
    FakeSource.all[0]!.say('missed', { revision: 900 });
    await pass(2000);
    expect([mine.asked, heard.missed, after.revision]).toEqual([1, 1, 900]);
  });

  it('knows a line that is only silent from one that is alive', async () => {
    FakeSource.all[0]!.onopen!();
    for (let i = 0; i < 5; i++) {
      await pass(8000);
      FakeSource.all[0]!.say('awake', {});
    }
    expect(heard.lost).toBe(0);
    await pass(21_000);
    expect(heard.lost).toBe(1);
  });

  it('asks again for what failed while the server was away', async () => {
    let up = false;
    let tries = 0;
    const observer = new QueryObserver(client, {
      queryKey: keys.robots,
      queryFn: () => {
        tries++;
        return up ? Promise.resolve({ robots: [] }) : Promise.reject(new Error('away'));
      },
    });
    observer.subscribe(() => undefined);
    await pass(10);
    up = true;
    FakeSource.all[0]!.onopen!();
    await pass(10);
    expect([tries, observer.getCurrentResult().status]).toEqual([2, 'success']);
  });
});
