import { useRef, useState } from 'react';
import type { LiveSample } from '@vigilum/contract/types';
import type { Sample } from '@vigilum/core/sensing';
import { useLiveReadings, type LiveReadings } from '../data/live.ts';

export interface Burst {
  live: LiveReadings;
  /** The samples taken so far while a burst runs; null between bursts. */
  taking: Sample[] | null;
  /** Takes `count` samples in a row and hands them over. Does nothing while another burst runs or nothing is heard. */
  take: (count: number, done: (samples: Sample[], periodMs: number) => void) => void;
  /** Ends a running burst early with what it has. */
  finish: () => void;
}

interface Running {
  count: number;
  /** The robot's time when the burst began, as far as this page can tell, ms. */
  sinceMs: number;
  samples: Sample[];
  times: number[];
  done: (samples: Sample[], periodMs: number) => void;
}

/** Samples are never gathered for longer than this, ms. */
const GATHERED_MS = 1000;

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
  const heard = useRef({ robotMs: -Infinity, at: 0 });
  const hear = ({ value, rgb, atMs }: LiveSample) => {
    const { robotMs } = heard.current;
    heard.current = { robotMs: atMs, at: performance.now() };
    const burst = running.current;
    if (!burst || burst.samples.length >= burst.count) return;
    // Samples come gathered: those from before the burst began show where the robot was, not where it is.
    if (atMs < burst.sinceMs && atMs > robotMs) return;
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
      const { robotMs, at } = heard.current;
      const sinceMs = robotMs + Math.min(performance.now() - at, GATHERED_MS);
      running.current = { count, sinceMs, samples: [], times: [], done };
      setTaking([]);
    },
    finish: end,
  };
}
