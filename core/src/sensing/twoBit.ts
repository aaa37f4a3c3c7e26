/** One row of the table of two floor sensors: left × 2 + right. */
export interface TwoBitRow {
  state: 0 | 1 | 2 | 3;
  left: boolean;
  right: boolean;
  says: string;
}

/** The two-bit state of two sensors, each on the line (true) or beside it (common practice). */
export const twoBitState = (left: boolean, right: boolean): 0 | 1 | 2 | 3 =>
  ((left ? 2 : 0) + (right ? 1 : 0)) as 0 | 1 | 2 | 3;

/** All four states with what they mean for a robot that follows a line between its two sensors. */
export const twoBitTable: readonly TwoBitRow[] = [
  { state: 0, left: false, right: false, says: 'neither sees the line: straight on' },
  { state: 1, left: false, right: true, says: 'the line is on the right: turn right' },
  { state: 2, left: true, right: false, says: 'the line is on the left: turn left' },
  { state: 3, left: true, right: true, says: 'both see it: a crossing, or the end' },
];
