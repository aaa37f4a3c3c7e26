import { Hand, SlidersHorizontal } from 'lucide-react';
import { useState } from 'react';
import type { Hand as HandMove } from '@vigilum/core/formats';
import { toast } from 'sonner';
import { post } from '../data/api.ts';
import { sentenceOf } from '../data/queries.ts';

const pressable = (on: boolean) =>
  `min-h-11 rounded-lg border px-3 ${on ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`;

/** Sends what a hand does to the stand-in; says so when it cannot be done. */
function useHand(robotId: number): (hand: HandMove) => Promise<boolean> {
  return async (hand) => {
    try {
      await post(`/robots/${robotId}/hand`, hand);
      return true;
    } catch (error) {
      toast.error(sentenceOf(error));
      return false;
    }
  };
}

/** The hands at the stand-in robot: what lies under its sensor. A real robot is moved by real hands. */
export function StandInHand({
  robotId,
  surfaces,
  more = true,
}: {
  robotId: number;
  surfaces: readonly string[];
  more?: boolean;
}) {
  const [at, setAt] = useState('');
  const [open, setOpen] = useState(false);
  const hand = useHand(robotId);
  const moves: { word: string; hand: HandMove }[] = [
    ...surfaces.map((surface) => ({ word: `over the ${surface}`, hand: { put: 'over' as const, surface } })),
    { word: 'paper to and fro', hand: { put: 'paper' } },
    { word: 'lift it', hand: { put: 'air' } },
  ];
  return (
    <div role="group" aria-label="Move the stand-in robot" className="flex flex-wrap items-center gap-1.5">
      <span className="flex items-center gap-1.5 text-ink-2">
        <Hand size={18} aria-hidden="true" /> stand-in robot:
      </span>
      {moves.map(({ word, hand: move }) => (
        <button
          key={word}
          type="button"
          aria-pressed={at === word}
          className={pressable(at === word)}
          onClick={() => void hand(move).then((done) => done && setAt(word))}
        >
          {word}
        </button>
      ))}
      {more ? (
        <button type="button" aria-expanded={open} className={pressable(open)} onClick={() => setOpen(!open)}>
          <SlidersHorizontal size={16} className="mr-1.5 inline" aria-hidden="true" />
          more hands
        </button>
      ) : null}
      {open ? <MoreHands robotId={robotId} /> : null}
    </div>
  );
}

function Slider({
  label,
  unit,
  min,
  max,
  step,
  initial,
  send,
}: {
  label: string;
  unit: string;
  min: number;
  max: number;
  step: number;
  initial: number;
  send: (value: number) => void;
}) {
  const [value, setValue] = useState(initial);
  return (
    <label className="flex min-h-11 flex-wrap items-center gap-2">
      <span className="w-44 text-ink-2">{label}</span>
      <input
        type="range"
        className="h-11 w-40 accent-(--sea)"
        min={min}
        max={max}
        step={step}
        value={value}
        onChange={(event) => setValue(Number(event.target.value))}
        onPointerUp={() => send(value)}
        onKeyUp={() => send(value)}
      />
      <span className="w-16 text-right font-mono">
        {value} {unit}
      </span>
    </label>
  );
}

/** Everything else that hands can do: bumper, something in front, turning, room light, height. */
export function MoreHands({ robotId }: { robotId: number }) {
  const hand = useHand(robotId);
  const [pressed, setPressed] = useState(false);
  const press = (down: boolean) =>
    void hand({ put: down ? 'press' : 'release' }).then((done) => done && setPressed(down));
  return (
    <div className="flex w-full flex-wrap gap-x-8 gap-y-1 rounded-lg border border-line bg-paper px-3 py-2">
      <Slider
        label="room light"
        unit="%"
        min={0}
        max={100}
        step={5}
        initial={20}
        send={(light) => void hand({ put: 'room', light })}
      />
      <Slider
        label="height of the floor sensor"
        unit="mm"
        min={2}
        max={60}
        step={1}
        initial={12}
        send={(mm) => void hand({ put: 'height', mm })}
      />
      <Slider
        label="a hand in front, at"
        unit="cm"
        min={1}
        max={220}
        step={1}
        initial={60}
        send={(cm) => void hand({ put: 'front', mm: cm * 10 })}
      />
      <div className="flex flex-wrap items-center gap-1.5">
        <button
          type="button"
          className={pressable(false)}
          onClick={() => void hand({ put: 'front', mm: null })}
        >
          nothing in front
        </button>
        <button
          type="button"
          aria-pressed={pressed}
          className={pressable(pressed)}
          onClick={() => press(!pressed)}
        >
          {pressed ? 'let the bumper go' : 'press the bumper'}
        </button>
        <button
          type="button"
          className={pressable(false)}
          onClick={() => {
            press(true);
            setTimeout(() => press(false), 350);
          }}
        >
          bump once
        </button>
        <button
          type="button"
          className={pressable(false)}
          onClick={() => void hand({ put: 'turn', deg: 90 })}
        >
          turn right 90°
        </button>
        <button
          type="button"
          className={pressable(false)}
          onClick={() => void hand({ put: 'turn', deg: -90 })}
        >
          turn left 90°
        </button>
      </div>
    </div>
  );
}
