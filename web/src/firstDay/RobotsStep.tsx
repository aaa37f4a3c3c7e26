import { useState } from 'react';
import { countOf } from '@vigilum/core/quantity';
import type { Kit } from '@vigilum/core/sensing';
import type { NewRobot, RobotEntry } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { cupboardsOf } from '../setup/robotsChoice.ts';

const MOST = 40;

/** How many robots of the kit there are, and where they are kept. */
export function RobotsStep({
  kit,
  robots,
  done,
}: {
  kit: Kit;
  robots: readonly RobotEntry[];
  done: () => void;
}) {
  const [n, setN] = useState('8');
  const [cupboard, setCupboard] = useState('');
  const add = useChange(
    (body: NewRobot) => api('POST /robots', { body }),
    ({ id }) => [{ what: 'robot', robot: id, teams: [], part: 'build' }],
  );
  const count = Number(n);
  const good = Number.isInteger(count) && count >= 1 && count <= MOST;
  const there = cupboardsOf(robots, kit.slug);
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!good) return;
        const body = { name: kit.name, kit: kit.slug, standIn: true, cupboard: cupboard.trim(), count };
        void add.mutateAsync(body).then(done, () => undefined);
      }}
    >
      <Labelled label={<>how many, 1 to {MOST}</>}>
        <input
          className="input w-28 font-mono"
          inputMode="numeric"
          value={n}
          aria-invalid={!good}
          onChange={(event) => setN(event.target.value)}
        />
      </Labelled>
      <Labelled label="cupboard, where there are several">
        <input
          className="input w-56"
          maxLength={60}
          autoComplete="off"
          value={cupboard}
          onChange={(event) => setCupboard(event.target.value)}
        />
      </Labelled>
      <Button main type="submit" disabled={!good || add.isPending}>
        {good ? `Add ${countOf(count, `${kit.name} robot`)}` : 'Add the robots'}
      </Button>
      {there.length > 0 ? (
        <Button onClick={done}>
          Go on with the {there.reduce((sum, { robots: some }) => sum + some, 0)} that are there
        </Button>
      ) : null}
    </form>
  );
}
