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

  /** The looks of a bumper that is pressed at some moments, ms, each time for longer. */
  presses(socket: string, count: number, moments: readonly number[]): Sample[] {
    let done = 0;
    return this.samples(socket, count, (ms) => {
      const k = Math.floor(done / 2);
      const at = moments[k];
      if (at === undefined) return;
      const hold = 220 + 160 * k;
      if (done % 2 === 0 && ms >= at) this.hand({ put: 'press' });
      else if (done % 2 === 1 && ms >= at + hold) this.hand({ put: 'release' });
      else return;
      done++;
    });
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
