import { useState } from 'react';
import type { StoredSet } from '@vigilum/core/classroom';
import { EDGE } from '@vigilum/core/classroom';
import { formatNumber } from '@vigilum/core/quantity';
import type { FittedSensor } from '@vigilum/core/sensing';
import { confusedSurfaces, figures, windowAround, type SurfaceFigures } from '@vigilum/core/threshold';
import { FindingCard } from '../ui/Finding.tsx';
import { ConfusionTable, mixedSentence } from './Mixed.tsx';

/** Between which levels one of any number of surfaces is told from its nearest rivals. */
export function SurfaceStudy({ sets, sensor }: { sets: readonly StoredSet[]; sensor: FittedSensor }) {
  const surfaces = sets
    .filter(({ surface }) => surface !== EDGE)
    .map((set) => figures({ ...set, name: set.surface }, sensor.step))
    .filter((set): set is SurfaceFigures => set !== null);
  const [name, setName] = useState('');
  const wanted = surfaces.find((s) => s.name === name) ?? surfaces[0];
  if (!wanted || surfaces.length < 2) return null;
  const found = windowAround(wanted, surfaces, sensor.unit, sensor.step);
  const { unit } = sensor;
  const confusion = confusedSurfaces(
    sets.filter(({ surface }) => surface !== EDGE).map(({ surface, values }) => ({ name: surface, values })),
  );
  const mixed = mixedSentence(confusion);
  const level = (v: number) => `${formatNumber(v)} ${unit}`.trim();
  const says = !found.ok
    ? found.says
    : found.value.above !== null && found.value.below !== null
      ? `It is the ${wanted.name} between ${level(found.value.above)} and ${level(found.value.below)}.`
      : found.value.below !== null
        ? `It is the ${wanted.name} below ${level(found.value.below)}.`
        : `It is the ${wanted.name} above ${level(found.value.above!)}.`;
  return (
    <div className="mt-4 flex flex-col gap-3 border-t border-line-soft pt-3">
      <label className="flex flex-wrap items-center gap-2">
        <span className="font-bold">Tell from all others:</span>
        <select className="input w-48" value={wanted.name} onChange={(event) => setName(event.target.value)}>
          {surfaces.map((s) => (
            <option key={s.name}>{s.name}</option>
          ))}
        </select>
      </label>
      <FindingCard
        tone={found.ok ? 'done' : 'fault'}
        says={says}
        more={found.ok ? 'Just past the nearest rival on each side.' : found.mend}
      />
      <FindingCard tone={mixed ? 'fault' : 'done'} says={mixed ?? 'No two of these surfaces are mixed up.'} />
      {mixed ? <ConfusionTable confusion={confusion} /> : null}
    </div>
  );
}
