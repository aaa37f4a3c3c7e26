import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { readFromRobot } from '@vigilum/core/formats';
import { asNumber, summarise } from '@vigilum/core/sensing';
import { httpServer } from '../http/listen.ts';
import { cobbleBuild, plainCharacter } from '../starter/build.ts';
import { cobble } from '../starter/cobble.ts';
import { tideLine } from '../starter/tideLine.ts';
import { Hall } from '../devices/hall.ts';
import { StandInRobot, type StandInConfig } from '../devices/standInRobot.ts';
import { demoApp, type DemoApp } from './harness.ts';

const config: StandInConfig = {
  name: 'Cobble 2',
  kit: cobble,
  build: cobbleBuild,
  character: plainCharacter,
  surfaces: [
    { name: 'tide line', reflectance: 0.2 },
    { name: 'quay boards', reflectance: 0.76 },
  ],
  course: tideLine.course,
  seed: 5,
};

/** Readings of a socket over some seconds. */
function readings(robot: StandInRobot, socket: string, seconds: number): (number | null)[] {
  robot.answer(`stream ${socket} on`);
  const values: (number | null)[] = [];
  for (let t = 0; t < seconds * 1000; t += 5) {
    for (const line of robot.due(t)) {
      const message = readFromRobot(line);
      if (message?.is === 'reading' && message.socket === socket) values.push(asNumber(message.value));
    }
  }
  return values;
}

describe('the stand-in robot', () => {
  it('says who it is and what is plugged in where', () => {
    const robot = new StandInRobot(config);
    expect(robot.answer('hello')).toEqual(['hello vigilum/1 Cobble_2']);
    expect(robot.answer('sockets')).toEqual([
      'socket K1 touch - 10',
      'socket K2 distance cm 60',
      'socket K3 light % 50',
      'socket K4 empty',
      'socket K5 heading deg 20',
      'socket K6 empty',
      'socket ML wheel deg 100',
      'socket MR wheel deg 100',
      'socket MX empty',
      'ok sockets',
    ]);
  });

  it('reads surfaces, the air and a moving paper as a floor sensor does', () => {
    const robot = new StandInRobot(config);
    robot.answer('hand over tide_line');
    const dark = summarise(readings(robot, 'K3', 2));
    robot.answer('hand over quay_boards');
    const light = summarise(readings(robot, 'K3', 2));
    expect(dark.n).toBe(40);
    expect(dark.mean).toBeGreaterThan(18);
    expect(dark.mean).toBeLessThan(26);
    expect(light.mean! - dark.mean!).toBeGreaterThan(45);
    robot.answer('hand air');
    // Facing the ceiling: 0–3 and its scatter (common practice).
    expect(summarise(readings(robot, 'K3', 2)).mean).toBeLessThan(4);
    robot.answer('hand paper');
    const paper = summarise(readings(robot, 'K3', 3));
    expect(paper.max! - paper.min!).toBeGreaterThan(60);
  });

  it('sees less when its sensor sits too high', () => {
    const high = {
      ...config,
      build: { ...config.build, fittings: config.build.fittings.map((f) => ({ ...f, heightMm: 27 })) },
    };
    const means = config.surfaces.map(({ name }) => {
      const robot = new StandInRobot(high);
      robot.answer(`hand over ${name.replace(' ', '_')}`);
      return summarise(readings(robot, 'K3', 2)).mean!;
    });
    expect(means[1]! - means[0]!).toBeLessThan(20);
  });

  it('gives no reading on an empty socket, and refuses what it does not know', () => {
    const robot = new StandInRobot(config);
    expect(readings(robot, 'K4', 0.5).every((v) => v === null)).toBe(true);
    expect(robot.answer('stream K9 on')).toEqual(['error no socket K9']);
    expect(robot.answer('hand over lava')).toEqual(['error no surface lava']);
    expect(robot.answer('format disk')).toEqual(['error not understood']);
    robot.answer('stream K4 off');
    expect(robot.due(9_999)).toEqual([]);
  });
});

describe('the bench', () => {
  let demo: DemoApp;
  let server: Server;
  let base: string;
  beforeAll(async () => {
    demo = await demoApp();
    server = httpServer(demo.app).listen(0, '127.0.0.1');
    await new Promise((resolve) => server.once('listening', resolve));
    base = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  });
  afterAll(async () => {
    server.closeAllConnections();
    server.close();
    await demo.close();
  });

  it('keeps a connection for longer than a teacher looks at a page, and a proxy keeps its own', async () => {
    const { headers } = await fetch(`${base}/api/health`);
    expect(headers.get('keep-alive')).toBe('timeout=75');
    expect(server.headersTimeout).toBeGreaterThan(server.keepAliveTimeout);
  });

  /** Collects events of a stream until `enough` says so. */
  async function hear(
    path: string,
    enough: (events: { event: string; data: { value?: number | null } }[]) => boolean,
    meanwhile?: () => Promise<void>,
  ) {
    const abort = new AbortController();
    const response = await fetch(base + path, { headers: { cookie: demo.cookie }, signal: abort.signal });
    expect(response.headers.get('content-type')).toMatch(/text\/event-stream/);
    const events: { event: string; data: { value?: number | null } }[] = [];
    const decoder = new TextDecoder();
    let rest = '';
    const acted = meanwhile?.();
    for await (const chunk of response.body!) {
      rest += decoder.decode(chunk as Uint8Array, { stream: true });
      const blocks = rest.split('\n\n');
      rest = blocks.pop()!;
      for (const block of blocks) {
        const event = /^event: (.*)$/m.exec(block)?.[1];
        const data = /^data: (.*)$/m.exec(block)?.[1];
        if (!event || !data) continue;
        // Looks come gathered, many in one event.
        for (const item of [JSON.parse(data) as unknown].flat() as { value?: number | null }[])
          events.push({ event, data: item });
      }
      if (enough(events)) break;
    }
    await acted;
    abort.abort();
    return events;
  }

  it('streams a robot’s readings to the page and moves it by hand', async () => {
    const dark = (value: number | null | undefined) => typeof value === 'number' && value < 40;
    const events = await hear(
      '/api/robots/1/live?socket=K3',
      (seen) => seen.filter((e) => dark(e.data.value)).length >= 5,
      async () => {
        const moved = await fetch(`${base}/api/robots/1/hand`, {
          method: 'POST',
          headers: { 'content-type': 'application/json', cookie: demo.cookie },
          body: JSON.stringify({ put: 'over', surface: 'tide line' }),
        });
        expect(moved.status).toBe(204);
      },
    );
    expect(events.every((e) => e.event === 'readings')).toBe(true);
  });

  it('hears nothing from the socket that the plug is not in, until it is moved', async () => {
    const silent = await hear('/api/robots/6/live?socket=K3', (seen) => seen.length >= 3);
    expect(silent.every((e) => e.data.value === null)).toBe(true);
    const events = await hear(
      '/api/robots/6/live?socket=K3',
      (seen) => seen.some((e) => e.event === 'gone'),
      async () => {
        await fetch(`${base}/api/robots/6/fittings/K4`, {
          method: 'PATCH',
          headers: { 'content-type': 'application/json', cookie: demo.cookie },
          body: JSON.stringify({ socket: 'K3' }),
        });
      },
    );
    expect(events.at(-1)?.event).toBe('gone');
    const speaking = await hear('/api/robots/6/live?socket=K3', (seen) => seen.length >= 2);
    expect(speaking.every((e) => typeof e.data.value === 'number')).toBe(true);
  });

  it('tells open pages what changed', async () => {
    const events = await hear(
      '/api/events',
      (seen) => seen.length >= 2,
      async () => {
        await fetch(`${base}/api/robots/2/wire-checks`, {
          method: 'POST',
          headers: {
            'content-type': 'application/json',
            'x-vigilum-page': 'page-of-a-test',
            cookie: demo.cookie,
          },
          body: JSON.stringify({ socket: 'K3', kind: 'light', reacts: true, lowest: 1, highest: 90 }),
        });
      },
    );
    expect(events).toMatchObject([
      { event: 'here' },
      {
        event: 'changed',
        data: { what: 'robot', robot: 2, teams: [2, 10], part: 'check', by: 'page-of-a-test' },
      },
    ]);
    const [from, to] = events.map(({ data }) => (data as { revision: number }).revision);
    expect(to).toBe(from! + 1);
  });
});

describe('the hall of stand-ins', () => {
  it('seats thirty in one process; one that fails leaves the others alone, and the last that leaves ends it', async () => {
    const hall = new Hall();
    const heard = new Map<string, string[]>();
    const gone: string[] = [];
    const seated = (name: string, given: StandInConfig) => {
      const lines: string[] = [];
      heard.set(name, lines);
      return hall.seat({ ...given, name }, { hear: (line) => lines.push(line), gone: () => gone.push(name) });
    };
    const seats = Array.from({ length: 30 }, (_, i) => seated(`Robot_${i}`, config));
    const broken = seated('Broken', { ...config, build: null as never });
    for (const seat of [...seats, broken]) seat.write('hello');
    const until = Date.now() + 20_000;
    const answered = () =>
      seats.every((_, i) => heard.get(`Robot_${i}`)!.includes(`hello vigilum/1 Robot_${i}`));
    while (!answered() && Date.now() < until) await new Promise((done) => setTimeout(done, 20));
    expect(answered()).toBe(true);
    seats[3]!.write('stream K3 on');
    while (heard.get('Robot_3')!.length < 5 && Date.now() < until)
      await new Promise((done) => setTimeout(done, 20));
    expect(heard.get('Robot_3')!.filter((line) => line.startsWith('r ')).length).toBeGreaterThan(1);
    expect(heard.get('Robot_4')!).toHaveLength(1);
    for (const seat of [...seats, broken]) seat.leave();
    expect(seats.some((seat) => seat.isThere())).toBe(false);
    // Nobody is told of what they did themselves.
    await new Promise((done) => setTimeout(done, 300));
    expect(gone).toEqual([]);
  }, 40_000);
});
