import { asNumber, type FittedSensor, type Reading, type Rgb } from '@vigilum/core/sensing';
import { convert, formatNumber, type Unit } from '@vigilum/core/quantity';
import { useLengthUnit } from '../ui/lengthUnit.ts';

/** A look in words and figures, in the unit a person chose: "43 %", "pressed", "red", "no reading". */
export function useShownSample(): (
  sensor: FittedSensor,
  value: Reading | undefined,
  rgb?: Rgb,
) => { figure: string; unit: string } {
  const length = useLengthUnit();
  return (sensor, value, rgb) => {
    if (value === undefined) return { figure: '…', unit: '' };
    if (value === null) return { figure: '–', unit: 'no reading' };
    switch (sensor.kind) {
      case 'touch':
        return { figure: value >= (sensor.min + sensor.max) / 2 ? 'pressed' : 'released', unit: '' };
      case 'colour':
        return { figure: sensor.colours?.[value] ?? String(value), unit: '' };
      case 'rgb':
        return {
          figure: rgb ? rgb.map((c) => formatNumber(c, 0)).join(' ') : formatNumber(asNumber(value), 0),
          unit: '',
        };
      case 'distance': {
        const unit = sensor.unit as Unit;
        return { figure: formatNumber(convert(value, unit, length), length === 'mm' ? 0 : 1), unit: length };
      }
      default:
        return { figure: formatNumber(value, sensor.step < 1 ? 1 : 0), unit: sensor.unit };
    }
  };
}

/** The number that the robot says just now, readable from two metres. */
export function LiveFigure({
  sensor,
  value,
  rgb,
  note,
}: {
  sensor: FittedSensor;
  value: Reading | undefined;
  rgb?: Rgb;
  note: string;
}) {
  const { figure, unit } = useShownSample()(sensor, value, rgb);
  return (
    <div className="flex flex-wrap items-baseline gap-x-2">
      {rgb ? <Swatch rgb={rgb} full={sensor.max} className="size-12 self-center" /> : null}
      <span
        className={`inline-block min-w-[2.2ch] text-right leading-none font-mono font-bold whitespace-nowrap ${figure.length > 8 ? 'text-3xl' : 'text-figure'}`}
      >
        {figure}
      </span>
      <span className="text-xl text-ink-2">{unit}</span>
      <span className="text-ink-2">{note}</span>
    </div>
  );
}

/** A colour as the sensor saw it. The name stands beside it: colour is never the only sign. */
export function Swatch({ rgb, full, className = 'size-6' }: { rgb: Rgb; full: number; className?: string }) {
  const [r, g, b] = rgb.map((c) => Math.round((255 * c) / full));
  return (
    <span
      aria-hidden="true"
      className={`inline-block shrink-0 rounded border border-edge ${className}`}
      style={{ background: `rgb(${r} ${g} ${b})` }}
    />
  );
}
