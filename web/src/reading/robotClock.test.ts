import { describe, expect, it } from '@jest/globals';
import { RobotClock } from './robotClock.ts';

const OFFSET = 1_000_000;

/** Samples each 20 ms, sent each 100 ms, held up by `delays` in turn. Returns the page's time when the last came. */
function listen(clock: RobotClock, delays: number[], fromMs = 0): number {
  let page = 0;
  delays.forEach((delay, batch) => {
    const sent = fromMs + 100 * (batch + 1);
    page = OFFSET + sent + delay;
    for (let at = sent - 80; at <= sent; at += 20) clock.hear(at, page);
  });
  return page;
}

describe('the robot’s time on the page', () => {
  it('follows the samples that were held up least, so that a late heap does not pass for fresh', () => {
    const clock = new RobotClock();
    const page = listen(clock, [5, 30, 4, 60, 5, 900]);
    // The last heap came 900 ms late: what was taken up to now is still under way.
    expect(clock.at(page)).toBe(600 + 896);
  });

  it('is never ahead of the robot', () => {
    for (const delays of [[0], [500], [3, 700, 2], [10, 9, 8]]) {
      const clock = new RobotClock();
      const page = listen(clock, delays);
      expect(clock.at(page)).toBeLessThanOrEqual(page - OFFSET);
    }
  });

  it('knows nothing before the first sample', () => {
    expect(new RobotClock().at(5)).toBe(-Infinity);
  });

  it('finds a robot that was started again, and one whose clock stood while the computer slept', () => {
    const again = new RobotClock();
    listen(again, [5, 5, 5], 60_000);
    const page = OFFSET + 90_000;
    again.hear(20, page);
    expect(again.at(page + 50)).toBe(70);

    const slept = new RobotClock();
    listen(slept, [5, 5, 5]);
    for (let i = 1; i <= 120; i++) slept.hear(300 + 100 * i, OFFSET + 8000 + 100 * i);
    expect(slept.at(OFFSET + 20_000)).toBe(12_300);
  });
});
