export type Manner = 'drive' | 'raw' | 'brake' | 'hold' | 'coast';

/** What a compiled step may ask of the robot that runs it. Times in ms, wheel angles in whole degrees. */
export interface Machine {
  readonly timeMs: number;
  /** True at a step's first look, false while it is looked at again. */
  readonly fresh: boolean;
  /** Latest sample of each sensor; NaN is no reading. */
  readonly readings: Float64Array;
  /** Bumps of each touch sensor since the start. */
  readonly bumps: Float64Array;
  readonly values: Float64Array;
  readonly slots: Float64Array;
  readonly lists: readonly number[][];
  /** What the last own step gave back; NaN is nothing. */
  given: number;
  /** Where own steps go on when they are done. */
  readonly stack: number[];
  /** Wheel travel in mm for each degree. */
  readonly mmPerDeg: number;
  /** Wheel degrees for each degree of a turn on the spot: track over wheel diameter. */
  readonly wheelPerTurn: number;
  /** Charge, % of full. */
  readonly battery: number;
  timerZeroMs: number;
  leftZeroDeg: number;
  rightZeroDeg: number;

  leftDeg(): number;
  rightDeg(): number;
  /** The same without what somebody else turned while this part of the program waited: movements count by it. */
  goneLeftDeg(): number;
  goneRightDeg(): number;
  /** From 0 to 1, the same in every run of the same circumstances. */
  random(): number;
  /** One number of a sensor that gives several, counted from 1; NaN when it has none. */
  item(sensor: number, position: number): number;
  /** The reading before it was turned into a unit; NaN where the robot has none. */
  raw(sensor: number): number;
  /** Sets both wheels in % of top speed; takes effect after the kit's command delay. */
  command(left: number, right: number, manner: Manner): void;
  zeroHeading(): void;
  /** Turns the turret to an angle, clockwise from ahead, at a share of its speed in %; says when it is there. */
  turnTurret(toDeg: number, percent: number): number;
  readonly turretDeg: number;
  show(text: string): void;
  beep(pitchHz: number, forS: number, volume: number): void;
  lamp(colour: string | null): void;
  /** A row of the log: values by column. */
  log(columns: readonly number[], values: readonly number[]): void;
  send(text: string): void;
  /** Whether another robot has sent this; it is taken then. */
  heard(text: string): boolean;
}
