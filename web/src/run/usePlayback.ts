import { useEffect, useMemo, useRef, useState } from 'react';
import { sampleAt, type Trace } from '@vigilum/core/sim';

export interface Playback {
  timeS: number;
  endS: number;
  /** Index of the trace's sample at this time. */
  sample: number;
  playing: boolean;
  speed: number;
  seek: (timeS: number) => void;
  toggle: () => void;
  setSpeed: (speed: number) => void;
  /** To the start of the next (+1) or this/previous (−1) step. */
  step: (by: 1 | -1) => void;
}

/** Times at which the script's line changes, the run's ends included. */
export function stepTimes(trace: Trace): number[] {
  const line = trace.signals.line?.values;
  const times = [0];
  if (line) {
    for (let i = 1; i < line.length; i++) if (line[i] !== line[i - 1]) times.push(trace.timesS[i]!);
  }
  times.push(trace.timesS.at(-1) ?? 0);
  return times;
}

/**
 * Plays a trace in real time or otherwise: run, chart and script all follow its one time. A new one begins at `from`, s, or at its
 * end where that is sooner.
 */
export function usePlayback(trace: Trace | null, from = 0): Playback {
  const endS = trace?.timesS.at(-1) ?? 0;
  const [timeS, setTime] = useState(0);
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState(1);
  const shown = useRef<Trace | null>(null);
  // A new run plays from its start.
  useEffect(() => {
    if (trace && shown.current !== trace) {
      setTime(Math.min(from, trace.timesS.at(-1) ?? 0));
      setPlaying(true);
    }
    shown.current = trace;
  }, [trace, from]);
  useEffect(() => {
    if (!playing) return;
    let last = performance.now();
    let frame = requestAnimationFrame(function tick(now) {
      const passed = ((now - last) / 1000) * speed;
      last = now;
      setTime((t) => {
        const next = Math.min(endS, t + passed);
        if (next >= endS) setPlaying(false);
        return next;
      });
      frame = requestAnimationFrame(tick);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, speed, endS]);
  const times = useMemo(() => (trace ? stepTimes(trace) : [0]), [trace]);
  const seek = (to: number) => {
    setPlaying(false);
    setTime(Math.min(endS, Math.max(0, to)));
  };
  return {
    timeS,
    endS,
    sample: trace ? sampleAt(trace, timeS) : 0,
    playing,
    speed,
    seek,
    toggle: () => {
      if (!playing && timeS >= endS) setTime(0);
      setPlaying(!playing);
    },
    setSpeed,
    step: (by) => {
      const near = 0.005;
      const to = by > 0 ? times.find((t) => t > timeS + near) : times.findLast((t) => t < timeS - near);
      seek(to ?? (by > 0 ? endS : 0));
    },
  };
}
