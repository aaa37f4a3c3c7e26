import type { Kit } from '@vigilum/core/sensing';
import { Labelled } from '../ui/fields.tsx';
import { robotsSaid, type RobotsChoice } from './robotsChoice.ts';

/** Which robots the teams of a class take, and what comes of it. */
export function RobotsField({
  choices,
  chosen,
  choose,
  kits,
  teams,
}: {
  choices: readonly RobotsChoice[];
  chosen: RobotsChoice;
  choose: (key: string) => void;
  kits: readonly Kit[];
  teams: number;
}) {
  const kit = kits.find(({ slug }) => slug === chosen.robots.kit)?.name ?? '';
  return (
    <Labelled label="robots" className="min-w-0">
      <select className="input w-full" value={chosen.key} onChange={(event) => choose(event.target.value)}>
        {choices.map(({ key, says }) => (
          <option key={key} value={key}>
            {says}
          </option>
        ))}
      </select>
      <span className="text-ink-2">{robotsSaid(chosen, kit, teams)}</span>
    </Labelled>
  );
}
