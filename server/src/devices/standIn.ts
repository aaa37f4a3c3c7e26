// Stand-in robots as a program of their own, all in one process: each line of standard input and output begins with the number of a seat and a
// tab. On a seat comes first its character as JSON, then lines of the line protocol; an empty line ends it.
import { createInterface } from 'node:readline';
import { StandInRobot, type StandInConfig } from './standInRobot.ts';

const robots = new Map<string, StandInRobot>();
const started = performance.now();
const now = () => performance.now() - started;
const say = (seat: string, lines: readonly string[]) => {
  if (lines.length > 0) process.stdout.write(`${lines.map((line) => `${seat}\t${line}`).join('\n')}\n`);
};

/** Kits and courses by their text: robots of one class stand on one mat, and what is worked out of it is worked out once. */
const shared = new Map<string, unknown>();
function same<T>(value: T): T {
  const text = JSON.stringify(value);
  const known = shared.get(text);
  if (known !== undefined) return known as T;
  if (shared.size > 40) shared.clear();
  shared.set(text, value);
  return value;
}

function hear(seat: string, line: string): void {
  if (line === '') {
    robots.delete(seat);
    return;
  }
  const robot = robots.get(seat);
  if (robot) {
    say(seat, robot.answer(line, now()));
    return;
  }
  const config = JSON.parse(line) as StandInConfig;
  robots.set(
    seat,
    new StandInRobot({
      ...config,
      kit: same(config.kit),
      course: same(config.course),
      surfaces: same(config.surfaces),
    }),
  );
}

/** One robot that fails leaves the others alone. */
function guarded(seat: string, work: () => void): void {
  try {
    work();
  } catch (error) {
    robots.delete(seat);
    process.stderr.write(`A stand-in ended: ${String(error)}\n`);
    say(seat, ['error ended']);
  }
}

// Whoever listened is gone: nothing is left to say.
process.stdout.on('error', () => process.exit(0));
createInterface({ input: process.stdin })
  .on('line', (text) => {
    const tab = text.indexOf('\t');
    const seat = text.slice(0, tab);
    guarded(seat, () => hear(seat, text.slice(tab + 1)));
  })
  .on('close', () => process.exit(0));
setInterval(() => {
  for (const [seat, robot] of robots) guarded(seat, () => say(seat, robot.due(now())));
}, 5);
