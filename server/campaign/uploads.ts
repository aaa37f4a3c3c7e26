import { join } from 'node:path';
import { lessonToJson, lessonToMarkdown } from '@vigilum/core/formats';
import { cobble } from '../src/starter/cobble.ts';
import { tideLine } from '../src/starter/tideLine.ts';
import { dice, inFolder, started, type Outcome } from './bench.ts';
import { hurt } from './texts.ts';

type Random = (n: number) => number;
/** Files that are sent at the same time. */
const AT_ONCE = 6;
/** Whoever asks for something else meanwhile waits no longer, ms: 99 of 100. */
const MOST_MS = 500;

const oneOf = <T>(of: readonly T[], random: Random): T => of[random(of.length)]!;

/** A rule of repetition as calendars of others have them, and now and then, 5 times in 1,000, one that no day meets. */
function ruleFor(random: Random): string {
  if (random(1000) < 5)
    return oneOf(
      [
        'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30',
        'FREQ=HOURLY;BYMONTH=2;BYMONTHDAY=31',
        'FREQ=WEEKLY;BYMONTH=4;BYMONTHDAY=31;BYDAY=MO',
        'FREQ=YEARLY;BYYEARDAY=366;BYMONTH=1',
      ],
      random,
    );
  const parts = [`FREQ=${oneOf(['DAILY', 'WEEKLY', 'MONTHLY', 'YEARLY'], random)}`];
  if (random(2) === 0) parts.push(`INTERVAL=${random(5)}`);
  if (random(3) === 0) parts.push(`COUNT=${random(2000)}`);
  if (random(4) === 0) parts.push(`UNTIL=20${20 + random(30)}0${1 + random(9)}1${random(9)}`);
  if (random(3) === 0) parts.push(`BYDAY=${oneOf(['MO', '1FR', '-1SU', 'TU,TH', '53MO', 'XX'], random)}`);
  if (random(6) === 0) parts.push(`BYMONTH=${random(14)}`);
  if (random(8) === 0) parts.push(`BYMONTHDAY=${random(29) - 5}`);
  return parts.join(';');
}
function calendarFor(random: Random): string {
  const lines = ['BEGIN:VCALENDAR', 'VERSION:2.0'];
  for (let i = 0; i <= random(6); i++) {
    const day = `20${15 + random(20)}${String(1 + random(12)).padStart(2, '0')}${String(1 + random(28)).padStart(2, '0')}`;
    lines.push('BEGIN:VEVENT', `SUMMARY:Day ${i}`);
    lines.push(random(5) === 0 ? `DTSTART:${day}T0${random(9)}0000Z` : `DTSTART;VALUE=DATE:${day}`);
    if (random(3) === 0) lines.push(`DURATION:P${random(40)}D`);
    if (random(2) === 0) lines.push(`RRULE:${ruleFor(random)}`);
    if (random(8) === 0) lines.push(`EXDATE;VALUE=DATE:${day}`);
    lines.push('END:VEVENT');
  }
  return [...lines, 'END:VCALENDAR'].join('\r\n');
}

const series = JSON.stringify({
  format: 'vigilum-series',
  version: 1,
  name: 'Of a stranger',
  aim: '',
  from: '',
  lessons: [tideLine],
  skills: [],
  kits: [cobble],
});
/** Routes that take files, and a damaged one of each: a text where the whole body is damaged. */
const damaged =
  (whole: unknown) =>
  (random: Random): string =>
    hurt(JSON.stringify(whole), random);
const imports: [path: string, body: (random: Random) => object | string][] = [
  ['/api/lessons/imports', (random) => ({ text: hurt(lessonToJson(tideLine), random) })],
  ['/api/lessons/imports', (random) => ({ text: hurt(lessonToMarkdown(tideLine), random) })],
  ['/api/series/imports', (random) => ({ text: hurt(series, random), take: false })],
  ['/api/kits', damaged({ ...cobble, slug: 'of-a-stranger' })],
  ['/api/courses', damaged({ course: tideLine.course })],
  ['/api/lessons', damaged({ lesson: tideLine })],
  [
    '/api/robots/1/imports',
    damaged({ sets: [{ socket: 'K3', kind: 'light', surface: 'a', values: [20, 21, null, 22] }] }),
  ],
  [
    '/api/teams/1/lessons/tide-line/logs/imports',
    damaged({ name: 'run', times: [0, 0.1, 0.2], signals: { speed: [0, 10, 20] } }),
  ],
];

async function sendAll(
  part: string,
  n: number,
  next: (random: Random) => { path: string; body: string },
): Promise<Outcome> {
  return inFolder(async (folder) => {
    const server = await started(join(folder, 'data'), { REQUESTS_PER_MINUTE: '10000000' });
    const random = dice(n + part.length);
    const codes: Record<number, number> = {};
    const notes: string[] = [];
    let held = 0;
    let slowest = { ms: 0, what: '' };
    let going = true;
    const waits: number[] = [];
    const others = (async () => {
      while (going) {
        const from = performance.now();
        await fetch(`${server.url}/api/classes`).then((answer) => answer.text());
        waits.push(performance.now() - from);
        await new Promise((done) => setTimeout(done, 15));
      }
    })();
    let left = n;
    const lane = async () => {
      while (left > 0) {
        left--;
        const { path, body } = next(random);
        const from = performance.now();
        const status = await fetch(server.url + path, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body,
        }).then(
          async (answer) => (await answer.text(), answer.status),
          () => 0,
        );
        const ms = performance.now() - from;
        codes[status] = (codes[status] ?? 0) + 1;
        if (ms > slowest.ms) slowest = { ms, what: `${path} ${body.slice(0, 200)}` };
        if (status > 0 && status < 500) held++;
        else if (notes.length < 8) notes.push(`${status}: ${path} ${body.slice(0, 200)}`);
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, lane));
    going = false;
    await others;
    const restarted = server.child.exitCode !== null || server.child.signalCode !== null;
    await server.kill();
    waits.sort((a, b) => a - b);
    const p99 = waits[Math.floor(waits.length * 0.99)] ?? 0;
    notes.push(
      `answers ${JSON.stringify(codes)}; restarts ${restarted ? 1 : 0}`,
      `the slowest took ${Math.round(slowest.ms)} ms, ${AT_ONCE} waiting at a time: ${slowest.what}`,
      `another page waited ${Math.round(p99)} ms (p99 of ${waits.length}), ${Math.round(waits.at(-1) ?? 0)} ms at most`,
    );
    return { part, tried: n, held: restarted || p99 > MOST_MS ? 0 : held, notes };
  });
}

/** Calendars of strangers, some of which never end: each is read or refused, and nobody else waits. */
export const calendars = (n: number): Promise<Outcome> =>
  sendAll('calendars of strangers', n, (random) => ({
    path: '/api/days-off/readings',
    body: JSON.stringify({ text: calendarFor(random) }),
  }));

/** Damaged files of every kind that can be imported, sent to the built server. */
export const importedFiles = (n: number): Promise<Outcome> =>
  sendAll('imports of strangers', n, (random) => {
    const [path, body] = oneOf(imports, random);
    const made = body(random);
    return { path, body: typeof made === 'string' ? made : JSON.stringify(made) };
  });
