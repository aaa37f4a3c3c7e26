import type { Reading, Rgb } from '@vigilum/core/sensing';

/** One look at a sensor, as the bench streams it. */
export interface LiveSample {
  socket: string;
  atMs: number;
  value: Reading;
  rgb?: Rgb;
}
