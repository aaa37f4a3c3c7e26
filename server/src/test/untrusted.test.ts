import { afterAll, beforeAll, describe, expect, it } from '@jest/globals';
import { spawn } from 'node:child_process';
import { bundled } from '../program.ts';
import { Turns } from '../jobs/turns.ts';
import { demoApp, type DemoApp } from './harness.ts';

let demo: DemoApp;
beforeAll(async () => {
  demo = await demoApp();
}, 60_000);
afterAll(() => demo.close());

const calendar = (...lines: string[]) =>
  [
    'BEGIN:VCALENDAR',
    'BEGIN:VEVENT',
    'DTSTART;VALUE=DATE:20260105',
    'SUMMARY:Inset day',
    ...lines,
    'END:VEVENT',
    'END:VCALENDAR',
  ].join('\r\n');
/** The 30th of February: the library looks for it for ever. */
const NEVER = 'RRULE:FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30';

describe('files of strangers are read in a thread of their own', () => {
  it('a calendar that never ends is refused in time, and nobody else waits', async () => {
    const read = (text: string) => demo.api.post('/api/days-off/readings').send({ text });
    await read(calendar()).expect(201);
    const waits: number[] = [];
    let going = true;
    const others = (async () => {
      while (going) {
        const from = performance.now();
        await demo.api.get('/api/classes').expect(200);
        waits.push(performance.now() - from);
      }
    })();
    const from = performance.now();
    const answer = await read(calendar(NEVER)).expect(422);
    const took = performance.now() - from;
    going = false;
    await others;
    expect((answer.body as { detail: string }).detail).toMatch(/not read within .* s and was stopped/);
    expect(took).toBeLessThan(2000);
    waits.sort((a, b) => a - b);
    expect(waits[Math.floor(waits.length * 0.99)]).toBeLessThan(500);
    // The next one is read as before.
    const after = await read(calendar('RRULE:FREQ=WEEKLY;COUNT=3')).expect(201);
    expect((after.body as { days: unknown[] }).days).toHaveLength(3);
  });

  it('whoever sends many hostile files waits behind themselves, not others', async () => {
    const turns = new Turns(2);
    const done: string[] = [];
    const ends: (() => void)[] = [];
    const job = (fair: string, name: string) =>
      turns.take(fair, async () => {
        done.push(name);
        await new Promise<void>((end) => ends.push(end));
      });
    const all = [job('a', 'a1'), job('a', 'a2'), job('b', 'b1'), job('c', 'c1')];
    await new Promise(setImmediate);
    expect(done).toEqual(['a1', 'b1']);
    while (ends.length > 0) {
      ends.shift()!();
      await new Promise(setImmediate);
    }
    await Promise.all(all);
    expect(done).toEqual(['a1', 'b1', 'a2', 'c1']);
    // A turn whose work failed is free again.
    await expect(turns.take('a', () => Promise.reject(new Error('no')))).rejects.toThrow('no');
    await expect(turns.take('a', () => Promise.resolve(1))).resolves.toBe(1);
  });

  it('a process that is stuck ends, and its log names what it was answering', async () => {
    const child = spawn(process.execPath, [bundled('stuck')!], {
      env: { ...process.env, VIGILUM_PATIENCE: '2' },
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    let said = '';
    child.stderr.on('data', (chunk: Buffer) => (said += chunk.toString()));
    const signal = await new Promise((done) => child.on('exit', (_code, by) => done(by)));
    expect(signal).toBe('SIGKILL');
    expect(said).toMatch(/Vigilum has not answered for \d+ s\. It ends here/);
    expect(said).toContain('Being answered when it stopped: POST /never, GET /waits\n');
  });
});
