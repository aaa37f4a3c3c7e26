// Stand-in robots as a program of their own, all in one process: each line of standard input and output begins with the number of a seat and a
// tab. On a seat comes first its character as JSON, then lines of the line protocol; an empty line ends it.
import { createInterface } from 'node:readline';
import { StandInRobot, type StandInConfig } from './standInRobot.ts';

/** Every robot has a clock of its own: it begins when it is seated, as after power-up. */
const robots = new Map<string, { robot: StandInRobot; now: () => number }>();
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
  const seated = robots.get(seat);
  if (seated) {
    say(seat, seated.robot.answer(line, seated.now()));
    return;
  }
  const started = performance.now();
  const config = JSON.parse(line) as StandInConfig;
  const robot = new StandInRobot({
    ...config,
    kit: same(config.kit),
    course: same(config.course),
    surfaces: same(config.surfaces),
  });
  robots.set(seat, { robot, now: () => performance.now() - started });
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
  for (const [seat, { robot, now }] of robots) guarded(seat, () => say(seat, robot.due(now())));
}, 5);
