import { Hand, SlidersHorizontal } from 'lucide-react';
import { useMemo, useState } from 'react';
import type { Hand as HandMove } from '@vigilum/core/formats';
import type { SensorKind } from '@vigilum/core/sensing';
import { toast } from 'sonner';
import { api } from '../data/api.ts';
import { inTurn } from '../data/inTurn.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import type { Room } from '@vigilum/contract/types';

const pressable = (on: boolean) =>
  `min-h-11 rounded-lg border px-3 ${on ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`;

/** Moves of which only the newest matters: each says where the hand is now, not by how much it moved. */
const PLACES = new Set<HandMove['put']>(['drag', 'room', 'height', 'front', 'at']);

/** Sends what a hand does to the stand-in, one move after the other; says so when it cannot be done. */
export function useHand(robotId: number): (hand: HandMove) => Promise<boolean> {
  return useMemo(
    () =>
      inTurn(
        async (hand: HandMove) => {
          try {
            await api('POST /robots/:id/hand', { id: robotId, body: hand });
            return true;
          } catch (error) {
            toast.error(sentenceOf(error));
            return false;
          }
        },
        (newer, older) => newer.put === older.put && PLACES.has(newer.put),
      ),
    [robotId],
  );
}

/** Surfaces with a button of their own; the others are among the other hands. */
const SHOWN = 2;

/** Which hands make a kind of sensor answer. */
function handsFor(kind: SensorKind): 'floor' | 'front' | 'beacon' | 'touch' | 'turn' {
  if (kind === 'touch') return 'touch';
  if (kind === 'beacon') return 'beacon';
  if (kind === 'distance' || kind === 'proximity') return 'front';
  return kind === 'heading' || kind === 'spin' || kind === 'wheel' ? 'turn' : 'floor';
}

/** The hands at the stand-in robot: what lies under its sensor. A real robot is moved by real hands. */
export function StandInHand({
  robotId,
  surfaces,
  room,
  kind = 'light',
  brief = false,
}: {
  robotId: number;
  /** What the sensor measures: the hands that move its number come first. */
  kind?: SensorKind;
  /** Without the other hands, where they are shown beside. */
  brief?: boolean;
  /** The lesson's surfaces first. */
  surfaces: readonly string[];
  room: Room | null;
}) {
  const usual = handsFor(kind);
  const [at, setAt] = useState('');
  const [open, setOpen] = useState(false);
  const hand = useHand(robotId);
  const put = (word: string, move: HandMove) => void hand(move).then((done) => done && setAt(word));
  const others = [...new Set([...surfaces.slice(SHOWN), ...(room?.surfaces ?? [])])].filter(
    (name) => !surfaces.slice(0, SHOWN).includes(name),
  );
  const other =
    others.length > 0 ? (
      <label className="flex min-h-11 flex-wrap items-center gap-2">
        <span className="w-44 text-ink-2">over another surface</span>
        <select
          className="input w-56"
          value={others.includes(at) ? at : ''}
          onChange={(event) => put(event.target.value, { put: 'over', surface: event.target.value })}
        >
          <option value="" disabled>
            choose
          </option>
          {others.map((name) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
    ) : null;
  const moves: { word: string; hand: HandMove }[] =
    usual === 'floor'
      ? [
          ...surfaces
            .slice(0, SHOWN)
            .map((surface) => ({ word: `over the ${surface}`, hand: { put: 'over' as const, surface } })),
          { word: 'paper to and fro', hand: { put: 'paper' } },
          { word: 'lift it', hand: { put: 'air' } },
        ]
      : usual === 'front'
        ? [
            ...[10, 30, 80].map((cm) => ({
              word: `hand at ${cm} cm`,
              hand: { put: 'front' as const, mm: cm * 10 },
            })),
            { word: 'nothing in front', hand: { put: 'front', mm: null } },
          ]
        : usual === 'beacon'
          ? [
              ...[-30, 0, 30].map((deg) => ({
                word: deg === 0 ? 'beacon ahead' : `beacon ${Math.abs(deg)}° ${deg < 0 ? 'left' : 'right'}`,
                hand: { put: 'beacon' as const, deg },
              })),
              { word: 'no beacon', hand: { put: 'beacon', deg: null } },
            ]
          : usual === 'touch'
            ? [
                { word: 'press the bumper', hand: { put: 'press' } },
                { word: 'let it go', hand: { put: 'release' } },
              ]
            : [
                { word: 'turn right 90°', hand: { put: 'turn', deg: 90 } },
                { word: 'turn left 90°', hand: { put: 'turn', deg: -90 } },
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
          aria-pressed={usual === 'turn' ? undefined : at === word}
          className={pressable(usual !== 'turn' && at === word)}
          onClick={() => put(word, move)}
        >
          {word}
        </button>
      ))}
      {brief ? (
        other
      ) : (
        <button type="button" aria-expanded={open} className={pressable(open)} onClick={() => setOpen(!open)}>
          <SlidersHorizontal size={16} className="mr-1.5 inline" aria-hidden="true" />
          more hands
        </button>
      )}
      {open ? (
        <div className="flex w-full flex-wrap gap-x-8 gap-y-1 rounded-lg border border-line bg-paper px-3 py-2">
          {other}
          <MoreHands robotId={robotId} />
        </div>
      ) : null}
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
    <label className="flex w-60 grow flex-col pt-1">
      <span className="flex justify-between text-ink-2">
        {label}
        <span className="font-mono text-ink">
          {value} {unit}
        </span>
      </span>
      <input
        type="range"
        className="h-9 w-full accent-(--sea)"
        min={min}
        max={max}
        step={step}
        value={value}
        onChange={(event) => setValue(Number(event.target.value))}
        onPointerUp={() => send(value)}
        onKeyUp={() => send(value)}
      />
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
    <>
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
    </>
  );
}
