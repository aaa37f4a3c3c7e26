import { Minus, Plus, RotateCcw } from 'lucide-react';
import { useEffect, useId, useRef, useState } from 'react';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';
import { Button } from '../ui/Button.tsx';
import { knobAmount, knobText, type Knob } from '@vigilum/core/tuning';

const tidy = (value: number, { low, high }: Knob) => Number(Math.min(high, Math.max(low, value)).toFixed(6));

/** A number that was not moved for so long is a trial. */
const RESTS_MS = 500;

/** One number of the script: pulled, stepped or typed. `change` while it moves, `commit` when it rests. */
export function KnobSlider({
  knob,
  value,
  change,
  commit,
}: {
  knob: Knob;
  value: number;
  change: (value: number) => void;
  commit: (value: number) => void;
}) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  useEffect(() => setTyped(null), [value]);
  const unit = knob.unit === 'deg' ? '°' : knob.unit;
  const moved = Math.abs(value - knob.value) > 1e-9;
  // Somebody who presses a key again and again, or a button, is still on the way.
  const rest = useRef<number | undefined>(undefined);
  useEffect(() => () => window.clearTimeout(rest.current), []);
  const newest = useRef(commit);
  newest.current = commit;
  const soon = (next: number) => {
    window.clearTimeout(rest.current);
    rest.current = window.setTimeout(() => newest.current(next), RESTS_MS);
  };
  const set = (next: number) => {
    change(next);
    soon(next);
  };
  const take = () => {
    if (typed === null) return;
    const next = typedNumber(typed);
    setTyped(null);
    // Typed numbers may lie beyond the slider: somebody who types knows what for.
    if (Number.isFinite(next) && Math.abs(next) <= 100_000) set(Number(next.toFixed(4)));
  };
  return (
    <div className="flex flex-col gap-0.5" role="group" aria-label={knob.name}>
      <div className="flex flex-wrap items-baseline gap-x-2">
        <label htmlFor={id} className="font-bold">
          {knob.name}
        </label>
        {moved ? (
          <button
            type="button"
            className="inline-flex min-h-11 items-center gap-1 text-sea underline"
            title={`Back to what the script says: ${knobAmount(knob)}`}
            onClick={() => set(knob.value)}
          >
            <RotateCcw size={15} aria-hidden="true" /> script: {knobAmount(knob)}
          </button>
        ) : (
          <span className="text-ink-2">as in the script</span>
        )}
        <span className="ml-auto flex items-baseline gap-1.5">
          <input
            className={`input h-11 w-20 text-right font-mono text-xl ${moved ? 'font-bold' : ''}`}
            inputMode="decimal"
            autoComplete="off"
            aria-label={`${knob.name}, typed${unit ? `, in ${unit}` : ''}`}
            value={typed ?? knobText(value).replace('-', '−')}
            onChange={(event) => setTyped(event.target.value)}
            onBlur={take}
            onKeyDown={(event) => {
              if (event.key === 'Enter') take();
              if (event.key === 'Escape') setTyped(null);
            }}
          />
          <span className="w-7 text-ink-2">{unit}</span>
        </span>
      </div>
      <div className="flex items-center gap-2">
        <Button
          className="size-11 shrink-0 p-0"
          aria-label={`${knob.name} less by ${formatNumber(knob.step, 4)}`}
          onClick={() => set(tidy(value - knob.step, knob))}
        >
          <Minus size={18} aria-hidden="true" />
        </Button>
        <input
          id={id}
          type="range"
          className="h-11 min-w-0 flex-1 cursor-pointer accent-(--sea)"
          min={Math.min(knob.low, value)}
          max={Math.max(knob.high, value)}
          step={knob.step}
          value={value}
          aria-valuetext={knobAmount({ value, unit: knob.unit })}
          onChange={(event) => change(Number(event.target.value))}
          onPointerUp={(event) => soon(Number(event.currentTarget.value))}
          onKeyUp={(event) => {
            if (event.key !== 'Tab' && event.key !== 'Shift') soon(Number(event.currentTarget.value));
          }}
        />
        <Button
          className="size-11 shrink-0 p-0"
          aria-label={`${knob.name} more by ${formatNumber(knob.step, 4)}`}
          onClick={() => set(tidy(value + knob.step, knob))}
        >
          <Plus size={18} aria-hidden="true" />
        </Button>
      </div>
    </div>
  );
}
