// A stand-in robot as a program of its own: the line protocol on standard input and output.
import { createInterface } from 'node:readline';
import { StandInRobot, type StandInConfig } from './standInRobot.ts';

const robot = new StandInRobot(JSON.parse(process.argv[2] ?? '{}') as StandInConfig);
const started = performance.now();
const say = (lines: string[]) => {
  if (lines.length > 0) process.stdout.write(`${lines.join('\n')}\n`);
};

createInterface({ input: process.stdin })
  .on('line', (line) => say(robot.answer(line)))
  .on('close', () => process.exit(0));
setInterval(() => say(robot.due(performance.now() - started)), 5);
