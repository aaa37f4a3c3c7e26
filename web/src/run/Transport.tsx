import { Pause, Play, StepBack, StepForward } from 'lucide-react';
import { formatFixed } from '@vigilum/core/quantity';
import { Button } from '../ui/Button.tsx';
import { useKey } from '../ui/useKey.ts';
import type { Playback } from './usePlayback.ts';

const speeds = [0.25, 0.5, 1, 2, 4, 8];

/** Play, pause, one step back or on, scrub, speed. */
export function Transport({ playback }: { playback: Playback }) {
  const { playing, toggle, step, timeS, endS, seek, speed, setSpeed } = playback;
  useKey(' ', toggle);
  useKey('ArrowRight', () => step(1));
  useKey('ArrowLeft', () => step(-1));
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Button main className="px-3.5" onClick={toggle} title="Play or pause (Space)">
        {playing ? <Pause size={20} aria-hidden="true" /> : <Play size={20} aria-hidden="true" />}
        <span className="w-[3.2rem] text-left">{playing ? 'Pause' : 'Play'}</span>
      </Button>
      <Button icon={StepBack} className="px-3" onClick={() => step(-1)} title="One step back (←)">
        step
      </Button>
      <Button after={StepForward} className="px-3" onClick={() => step(1)} title="One step on (→)">
        step
      </Button>
      <input
        type="range"
        aria-label="Time in the run"
        aria-valuetext={`${formatFixed(timeS, 2)} seconds`}
        className="h-11 min-w-28 flex-1 accent-(--ink)"
        min={0}
        max={endS || 1}
        step={0.01}
        value={timeS}
        onChange={(event) => seek(Number(event.target.value))}
      />
      <span className="w-20 text-right font-mono whitespace-nowrap">{formatFixed(timeS, 2)} s</span>
      <Button
        className="w-18 px-0"
        title="Speed of the playback"
        onClick={() => setSpeed(speeds[(speeds.indexOf(speed) + 1) % speeds.length]!)}
      >
        {speed}×<span className="sr-only"> speed, change it</span>
      </Button>
    </div>
  );
}
