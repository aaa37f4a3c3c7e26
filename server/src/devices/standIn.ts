// A stand-in robot as a program of its own: its character on the first line of standard input, then the line protocol.
import { createInterface } from 'node:readline';
import { StandInRobot, type StandInConfig } from './standInRobot.ts';

let robot: StandInRobot | null = null;
const started = performance.now();
const now = () => performance.now() - started;
const say = (lines: string[]) => {
  if (lines.length > 0) process.stdout.write(`${lines.join('\n')}\n`);
};

// Whoever listened is gone: nothing is left to say.
process.stdout.on('error', () => process.exit(0));
createInterface({ input: process.stdin })
  .on('line', (line) => {
    if (robot) say(robot.answer(line, now()));
    else robot = new StandInRobot(JSON.parse(line) as StandInConfig);
  })
  .on('close', () => process.exit(0));
setInterval(() => say(robot?.due(now()) ?? []), 5);
