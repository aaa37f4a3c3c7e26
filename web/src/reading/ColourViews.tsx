import { useMemo, type ReactNode } from 'react';
import { nearestColour, studyColours, studyNames } from '@vigilum/core/colour';
import { formatNumber } from '@vigilum/core/quantity';
import type { FittedSensor } from '@vigilum/core/sensing';
import { FindingCard } from '../ui/Finding.tsx';
import { Swatch } from './LiveFigure.tsx';
import { ConfusionTable, mixedSentence } from './Mixed.tsx';
import type { Shown } from './SurfaceBoard.tsx';
import { TableHead } from '../ui/TableHead.tsx';

/** Colours by their three numbers: mean, nearest rival, the limit to set, and which are mixed up. */
function RgbStudy({ sensor, shown }: { sensor: FittedSensor; shown: Shown }) {
  const study = useMemo(() => studyColours(shown.rgb, sensor.max), [shown.rgb, sensor.max]);
  const now = shown.live.rgb
    ? nearestColour(
        shown.live.rgb,
        sensor.max,
        study.colours.map(({ name, lab, limit }) => ({ name, lab, limit })),
      )
    : null;
  if (study.colours.length === 0)
    return (
      <div className="grid min-h-64 flex-1 place-items-center rounded-lg border border-dashed border-line text-center text-ink-2">
        <p>
          No colour read yet.
          <br />
          Put the sensor over one, name it, take its readings.
        </p>
      </div>
    );
  const says = mixedSentence(study.confusion);
  return (
    <div className="flex flex-col gap-4">
      {now ? (
        <p role="status">
          Now nearest to <strong>{now.name}</strong>, ΔE {formatNumber(now.deltaE)}
          {now.within ? '' : ': farther than its limit, so some other colour'}
          {now.second ? `; next ${now.second.name}, ΔE ${formatNumber(now.second.deltaE)}` : ''}.
        </p>
      ) : null}
      <table className="w-full">
        <TableHead
          columns={[
            'colour',
            '|red',
            '|green',
            '|blue',
            '|n',
            '|own spread, ΔE',
            'nearest rival',
            '|set limit, ΔE',
          ]}
        />
        <tbody>
          {study.colours.map((c) => (
            <tr key={c.name} className="h-12 border-t border-line-soft">
              <th scope="row" className="text-left font-bold">
                <span className="flex items-center gap-3">
                  <Swatch rgb={c.mean} full={sensor.max} className="size-9" /> {c.name}
                </span>
              </th>
              {c.mean.map((channel, i) => (
                <td key={i} className="text-right font-mono">
                  {formatNumber(channel, 0)}
                </td>
              ))}
              <td className="pl-4 text-right font-mono">{c.n}</td>
              <td className="text-right font-mono">{formatNumber(c.spread)}</td>
              <td className="pl-6">
                {c.rival ? `${c.rival.name}, ΔE ${formatNumber(c.rival.deltaE)}` : 'none yet'}
              </td>
              <td
                className={`text-right font-mono font-bold ${c.limit !== null && c.spread > c.limit ? 'text-fault' : ''}`}
              >
                {c.limit !== null && c.spread > c.limit ? '✕ ' : ''}
                {formatNumber(c.limit)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {study.colours.length > 1 ? (
        <>
          <FindingCard
            tone={says ? 'fault' : 'done'}
            says={says ?? 'No two of these colours are mixed up.'}
            more={
              says
                ? 'Choose another colour for the lesson, or lower the sensor and read both again.'
                : 'ΔE is the distance of two colours as the eye judges it; about 1 is just seen. Farther than the limit is some other colour.'
            }
          />
          <ConfusionTable confusion={study.confusion} />
        </>
      ) : null}
    </div>
  );
}

/** Colours as the sensor itself names them: how often each name came over each surface. */
function NamesStudy({ sensor, shown }: { sensor: FittedSensor; shown: Shown }) {
  const { surfaces, alike } = studyNames(shown.sets, sensor.colours ?? []);
  return (
    <div className="flex flex-col gap-3">
      {surfaces.length === 0 ? (
        <p className="text-ink-2">No colour read yet. Put the sensor over one and take its readings.</p>
      ) : (
        <table className="w-full">
          <TableHead columns={['surface', 'what the sensor calls it', '|looks']} />
          <tbody>
            {surfaces.map(({ surface, samples, names }) => (
              <tr key={surface} className="h-12 border-t border-line-soft">
                <th scope="row" className="text-left font-bold">
                  {surface}
                </th>
                <td>
                  {names.map(({ name, times }, i) => (
                    <span
                      key={name}
                      className={`mr-4 inline-block ${i === 0 ? 'text-xl font-bold' : 'text-ink-2'}`}
                    >
                      {name} <span className="font-mono text-base font-normal">{times}</span>
                    </span>
                  ))}
                </td>
                <td className="text-right font-mono">{samples}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {alike ? (
        <FindingCard
          tone="fault"
          says={`The ${alike.one} and the ${alike.other} are both called ${alike.name}.`}
          more="The names cannot tell them apart: read them as rgb, or change one of the colours."
        />
      ) : null}
      <p className="text-ink-2">
        The names that this sensor knows: {sensor.colours?.join(', ') ?? 'none'}. Anything else is no colour.
      </p>
    </div>
  );
}

/** How the readings of a kind of sensor are told where dots on a scale say nothing. */
export function pictureOf(sensor: FittedSensor): ((shown: Shown) => ReactNode) | undefined {
  if (sensor.kind === 'rgb') return (shown) => <RgbStudy sensor={sensor} shown={shown} />;
  return sensor.kind === 'colour' ? (shown) => <NamesStudy sensor={sensor} shown={shown} /> : undefined;
}
