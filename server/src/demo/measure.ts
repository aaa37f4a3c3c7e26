import { readFromRobot, writeToRobot, type Hand } from '@vigilum/core/formats';
import type { Sample } from '@vigilum/core/sensing';
import type { StandInRobot } from '../devices/standInRobot.ts';

/** A stand-in robot in hands, with a clock of its own: the demo's numbers are measured, not typed. */
export class Measured {
  private readonly robot: StandInRobot;
  private nowMs = 0;

  constructor(robot: StandInRobot) {
    this.robot = robot;
  }

  hand(hand: Hand): void {
    const [answer] = this.robot.answer(writeToRobot({ is: 'hand', hand }), this.nowMs);
    if (answer !== 'ok hand') throw new Error(`The demo's robot answered: ${answer}`);
  }

  /** The next looks of a socket, as many as wanted; `meanwhile` hears the time of each, ms from the first. */
  samples(socket: string, count: number, meanwhile?: (ms: number) => void): Sample[] {
    this.robot.answer(writeToRobot({ is: 'stream', socket, on: true }), this.nowMs);
    const start = this.nowMs;
    const values: Sample[] = [];
    while (values.length < count) {
      this.nowMs += 5;
      meanwhile?.(this.nowMs - start);
      for (const line of this.robot.due(this.nowMs)) {
        const message = readFromRobot(line);
        if (message?.is === 'reading' && message.socket === socket && values.length < count)
          values.push(message.value);
      }
    }
    this.robot.answer(writeToRobot({ is: 'stream', socket, on: false }), this.nowMs);
    return values;
  }
}
