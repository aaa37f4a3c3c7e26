import { useRef, useState } from 'react';
import type { LiveSample } from '@vigilum/contract/types';
import type { Sample } from '@vigilum/core/sensing';
import { useLiveReadings, type LiveReadings } from '../data/live.ts';
import { RobotClock } from './robotClock.ts';

export interface Burst {
  live: LiveReadings;
  /** The samples taken so far while a burst runs; null between bursts. */
  taking: Sample[] | null;
  /** Takes `count` samples in a row and hands them over. Does nothing while another burst runs or nothing is heard. */
  take: (count: number, done: (samples: Sample[], periodMs: number) => void) => void;
  /** Ends a running burst early with what it has. */
  finish: () => void;
}

/** Samples that a network held up are waited for no longer than this, ms. */
const LATE_MS = 2000;

interface Running {
  count: number;
  /** When the burst began, ms: by the robot's time as far as this page can tell, and by the page's. */
  sinceMs: number;
  pressedMs: number;
  samples: Sample[];
  times: number[];
  done: (samples: Sample[], periodMs: number) => void;
}

const periodOf = (times: readonly number[]): number =>
  times.length > 1 ? Math.max(1, (times.at(-1)! - times[0]!) / (times.length - 1)) : 50;

/** Listens to a socket and takes readings on demand. */
export function useBurst(robotId: number, socket: string, epoch: unknown): Burst {
  const running = useRef<Running | null>(null);
  const [taking, setTaking] = useState<Sample[] | null>(null);
  const end = () => {
    const burst = running.current;
    running.current = null;
    setTaking(null);
    if (burst && burst.samples.length > 0) burst.done(burst.samples, periodOf(burst.times));
  };
  const clock = useRef(new RobotClock());
  const hear = ({ value, rgb, atMs }: LiveSample) => {
    const now = performance.now();
    clock.current.hear(atMs, now);
    const burst = running.current;
    if (!burst || burst.samples.length >= burst.count) return;
    // Samples come gathered and late: those from before the burst began show where the robot was, not where it is.
    if (atMs < burst.sinceMs && now < burst.pressedMs + LATE_MS) return;
    burst.samples.push(rgb ?? value);
    burst.times.push(atMs);
    setTaking([...burst.samples]);
    if (burst.samples.length >= burst.count) end();
  };
  const live = useLiveReadings(robotId, socket, epoch, hear);
  return {
    live,
    taking,
    take: (count, done) => {
      if (running.current || live.state !== 'live') return;
      const pressedMs = performance.now();
      const sinceMs = clock.current.at(pressedMs);
      running.current = { count, sinceMs, pressedMs, samples: [], times: [], done };
      setTaking([]);
    },
    finish: end,
  };
}
