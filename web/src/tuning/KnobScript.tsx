import { knobAmount, type Knob } from '@vigilum/core/tuning';

/** The script with every number that can be tuned as a button: a tap makes it a slider, or takes it away again. */
export function KnobScript({
  text,
  knobs,
  chosen,
  toggle,
}: {
  text: string;
  knobs: readonly Knob[];
  chosen: ReadonlySet<string>;
  toggle: (name: string) => void;
}) {
  const lines = text.replace(/\n+$/, '').split('\n');
  const places = knobs.flatMap((knob) => knob.places.map((place) => ({ knob, place })));
  return (
    <ol className="rounded-lg border border-line py-1 font-mono leading-8" aria-label="The script’s numbers">
      {lines.map((line, i) => {
        const here = places
          .filter(({ place }) => place.line === i + 1)
          .sort((a, b) => a.place.column - b.place.column);
        let at = 0;
        return (
          <li
            key={i}
            className={`flex items-baseline gap-2.5 px-2 ${here.length > 0 ? 'leading-[3.1rem]' : ''}`}
          >
            <span className="w-5 shrink-0 text-right text-ink-2">{i + 1}</span>
            <span className="min-w-0 break-words whitespace-pre-wrap">
              {here.map(({ knob, place }) => {
                const before = line.slice(at, place.column - 1);
                const word = line.slice(place.column - 1, place.column - 1 + place.length);
                at = place.column - 1 + place.length;
                const on = chosen.has(knob.name);
                return (
                  <span key={`${place.column}`}>
                    {before}
                    <button
                      type="button"
                      aria-pressed={on}
                      aria-label={`${knob.name}, ${knobAmount(knob)}, line ${i + 1}`}
                      title={on ? `Take the slider for ${knob.name} away` : `Tune ${knob.name}`}
                      className={`inline-flex min-h-11 min-w-11 items-center justify-center rounded-md border px-1.5 leading-normal ${on ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet underline decoration-dotted underline-offset-4'}`}
                      onClick={() => toggle(knob.name)}
                    >
                      {word}
                    </button>
                  </span>
                );
              })}
              {line.slice(at) || (here.length === 0 ? ' ' : '')}
            </span>
          </li>
        );
      })}
    </ol>
  );
}
