/** How long the least delay counts, ms: clocks run apart, robots are started again, computers sleep. */
const BLOCK_MS = 5000;

/**
 * What time it is on a robot, as the page can tell: samples come late, gathered or held up, but never early, so the one that came
 * with the least delay of the last seconds tells how both clocks stand (a minimum filter, as in RFC 5905, section 10).
 */
export class RobotClock {
  /** The page's time less the robot's of the sample with the least delay: in this block and in the one before, ms. */
  private least = Infinity;
  private leastBefore = Infinity;
  private blockFrom = -Infinity;

  /** A sample that the robot took at `atMs` of its own time was heard at `heardMs` of the page's. */
  hear(atMs: number, heardMs: number): void {
    if (heardMs - this.blockFrom > BLOCK_MS) {
      // After a pause, what was before it says nothing.
      this.leastBefore = heardMs - this.blockFrom > 2 * BLOCK_MS ? Infinity : this.least;
      this.least = Infinity;
      this.blockFrom = heardMs;
    }
    this.least = Math.min(this.least, heardMs - atMs);
  }

  /** The robot's time at a moment of the page's, ms: late by the least delay that a sample had, never early. */
  at(pageMs: number): number {
    return pageMs - Math.min(this.least, this.leastBefore);
  }
}
