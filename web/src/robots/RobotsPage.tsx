import { Plus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { formatNumber } from '@vigilum/core/quantity';
import { topSpeedMmPerS } from '@vigilum/core/motion';
import { sensorWords } from '@vigilum/core/sensing';
import type { NewRobot, RobotEntry } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange, useKits, useRobots } from '../data/queries.ts';
import { Panel } from '../ui/Panel.tsx';
import { Empty, Failed, Loading } from '../ui/states.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { CheckBox } from '../ui/CheckBox.tsx';

/** Most robots added at once. */
const MOST_AT_ONCE = 40;

/** New robots of a kit: their measures and wiring are put right under Build afterwards. */
function NewRobots({ close }: { close: () => void }) {
  const kits = useKits();
  const save = useChange(
    (body: NewRobot) => api('POST /robots', { body }),
    ({ id }) => [{ what: 'robot', robot: id, teams: [], part: 'build' }],
  );
  const [name, setName] = useState('');
  const [kit, setKit] = useState('');
  const [cupboard, setCupboard] = useState('');
  const [n, setN] = useState('1');
  const [standIn, setStandIn] = useState(true);
  const list = kits.data?.kits ?? [];
  const slug = kit || list[0]?.kit.slug || '';
  const count = Number(n);
  const good =
    name.trim() !== '' && slug !== '' && Number.isInteger(count) && count >= 1 && count <= MOST_AT_ONCE;
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!good) return;
        save.mutate(
          {
            name: name.trim(),
            kit: slug,
            standIn,
            cupboard: cupboard.trim(),
            ...(count === 1 ? {} : { count }),
          },
          { onSuccess: close },
        );
      }}
    >
      <Labelled label={<>name{count > 1 ? ', each with a number after it' : ''}</>}>
        <input
          className="input w-56"
          maxLength={70}
          autoComplete="off"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </Labelled>
      <Labelled label="how many">
        <input
          className="input w-24 font-mono"
          inputMode="numeric"
          value={n}
          onChange={(event) => setN(event.target.value)}
        />
      </Labelled>
      <Labelled label="kit">
        <select className="input w-44" value={slug} onChange={(event) => setKit(event.target.value)}>
          {list.map(({ kit: { slug: s, name: word } }) => (
            <option key={s} value={s}>
              {word}
            </option>
          ))}
        </select>
      </Labelled>
      <Labelled label="cupboard">
        <input
          className="input w-44"
          maxLength={60}
          autoComplete="off"
          value={cupboard}
          onChange={(event) => setCupboard(event.target.value)}
        />
      </Labelled>
      <CheckBox checked={standIn} change={setStandIn}>
        with a stand-in, to try things without the robot
      </CheckBox>
      <Button main type="submit" disabled={!good || save.isPending}>
        {count > 1 && good ? `Add ${count} robots` : 'Add the robot'}
      </Button>
      <Button onClick={close}>Not now</Button>
    </form>
  );
}

function RobotsTable({ robots }: { robots: readonly RobotEntry[] }) {
  const kept = robots.some(({ cupboard }) => cupboard !== '');
  return (
    <table className="w-full">
      <TableHead
        columns={[
          'robot',
          'kit',
          'team',
          ...(kept ? ['cupboard'] : []),
          'plugged in',
          '|wheel, mm',
          '|track, mm',
          '|top speed, mm/s',
        ]}
      />
      <tbody>
        {robots.map(({ id, name, kit, build, team, cupboard }) => (
          <tr key={id} className="h-14 border-t border-line-soft">
            <th scope="row" className="pr-4 text-left text-lg font-bold whitespace-nowrap">
              <Link to={`/robots/${id}`} className="flex min-h-11 items-center text-sea underline">
                {name}
              </Link>
            </th>
            <td className="pr-4">{kit.name}</td>
            <td className="pr-4">{team ?? <span className="text-ink-2">none</span>}</td>
            {kept ? <td className="pr-4 whitespace-nowrap">{cupboard}</td> : null}
            <td className="pr-4">
              {build.fittings.map((f) => (
                <span key={f.socket} className="mr-4 inline-block">
                  <strong className="font-mono">{f.socket}</strong> {sensorWords[f.mode]}
                  {kit.sensors.find((s) => s.id === f.sensorId)?.mountMm ? (
                    <span className="text-ink-2"> at {formatNumber(f.heightMm, 0)} mm</span>
                  ) : null}
                </span>
              ))}
              {build.quirks?.length ? (
                <span className="block text-ink-2">{build.quirks.join('; ')}</span>
              ) : null}
            </td>
            <td className="pr-4 text-right font-mono">{formatNumber(build.wheelDiameterMm)}</td>
            <td className="pr-4 text-right font-mono">{formatNumber(build.trackMm)}</td>
            <td className="pr-4 text-right font-mono">
              {formatNumber(topSpeedMmPerS(kit.drive.topDegPerS, build.wheelDiameterMm), 0)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Every robot: whose it is, its measures, and what is plugged in where. */
export default function RobotsPage() {
  const robots = useRobots();
  const [adding, setAdding] = useState(false);
  if (robots.isPending) return <Loading what="the robots" />;
  if (robots.isError) return <Failed error={robots.error} again={() => void robots.refetch()} />;
  const list = robots.data.robots;
  const away = list.filter(({ archived }) => archived);
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <div className="flex flex-wrap items-center gap-2">
        <h1 className="mr-auto text-title font-bold">Robots</h1>
        <LinkButton to="/kits">Kits, and what they can do</LinkButton>
        <Button main icon={Plus} onClick={() => setAdding(true)}>
          Add robots
        </Button>
      </div>
      {adding ? (
        <Panel title="New robots">
          <NewRobots close={() => setAdding(false)} />
        </Panel>
      ) : null}
      {list.length === 0 ? (
        <Empty title="No robot yet.">
          <p>Add one, or start a class: each team gets its own.</p>
        </Empty>
      ) : (
        <>
          <Panel className="relative overflow-x-auto">
            <RobotsTable robots={list.filter(({ archived }) => !archived)} />
          </Panel>
          {away.length > 0 ? (
            <Panel title="Put away" aside="no class is given these" className="relative overflow-x-auto">
              <RobotsTable robots={away} />
            </Panel>
          ) : null}
        </>
      )}
    </main>
  );
}
