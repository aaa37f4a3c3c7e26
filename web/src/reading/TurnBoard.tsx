import { useState, type ReactNode } from 'react';
import type { StoredSet } from '@vigilum/core/classroom';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';
import { asNumber, judgeTurns, summarise, summaryOf, type Kit } from '@vigilum/core/sensing';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { FindingCard } from '../ui/Finding.tsx';
import { Figure, Panel } from '../ui/Panel.tsx';
import { ago, useNow } from '../ui/time.ts';
import { robotNumbers } from '../workings/robotNumbers.ts';
import { WorkingLink } from '../workings/WorkingLink.tsx';
import { LiveFigure } from './LiveFigure.tsx';
import type { Reader } from './reader.ts';
import { Asked, type AskedTruth } from './Asked.tsx';
import { StandInHand } from './StandInHand.tsx';
import { liveNote } from './SurfaceBoard.tsx';
import { useBurst } from './useBurst.ts';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { useRemoveReading, useSaveSet } from './saves.ts';

const SAMPLES = 10;

/** Turn the robot by a known angle and see what its heading makes of it. Turning right counts up. */
export function TurnBoard({
  reader,
  kit,
  sets,
  asked = [],
  next,
}: {
  reader: Reader;
  kit: Kit;
  sets: readonly StoredSet[];
  /** Turns that the lesson asks for, deg. */
  asked?: readonly AskedTruth[];
  next?: ReactNode;
}) {
  const { robot, fitting, sensor, room, skew } = reader;
  const now = useNow(15_000) + skew;
  const [from, setFrom] = useState<number | null>(null);
  const [text, setText] = useState('90');
  const truth = typedNumber(text);
  const good = Number.isFinite(truth) && truth !== 0 && Math.abs(truth) <= 3600;
  const save = useSaveSet(robot.id);
  const remove = useRemoveReading('sample-sets', 'Turn removed.', robot.id);
  const { live, taking, take } = useBurst(robot.id, fitting.socket, reader.epoch);
  const busy = taking !== null || save.isPending;
  const look = (done: (mean: number) => void) =>
    take(SAMPLES, (looks) => {
      const { mean } = summarise(looks.map(asNumber));
      if (mean !== null) done(mean);
    });
  const turns = sets
    .filter((set) => set.truth !== null)
    .map((set) => ({ set, truth: set.truth!, reading: summaryOf(set).mean }))
    .filter((turn): turn is typeof turn & { reading: number } => turn.reading !== null)
    .sort((a, b) => a.truth - b.truth);
  const found = judgeTurns(turns);
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_27rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel title="Turned by a known angle" aside="right counts up, left counts down" footer={next}>
        <Asked
          asked={asked}
          says={(deg) => `${formatNumber(Math.abs(deg))}° ${deg < 0 ? 'left' : 'right'}`}
          choose={(deg) => setText(String(deg))}
        />
        <LiveFigure sensor={sensor} value={live.latest} note={liveNote(live.state, fitting.socket)} />
        <ol className="mt-4 flex flex-col gap-4">
          <li className="flex flex-wrap items-center gap-3">
            <span className="w-64 font-bold">1. Hold the robot against a straight edge.</span>
            <Button main disabled={busy || live.state !== 'live'} onClick={() => look(setFrom)}>
              Note where it starts
            </Button>
            <span className="text-ink-2">{from === null ? '' : `starts at ${formatNumber(from)}°`}</span>
          </li>
          <li className="flex flex-wrap items-center gap-3">
            <span className="w-64 font-bold">2. Turn it by a known angle.</span>
            <Labelled beside label="turned by, deg">
              <input
                className="input w-28 font-mono text-xl"
                inputMode="text"
                value={text}
                aria-invalid={!good}
                onChange={(event) => setText(event.target.value)}
              />
            </Labelled>
            {good ? null : <span className="text-fault">Degrees, not 0; left is negative.</span>}
          </li>
          <li className="flex flex-wrap items-center gap-3">
            <span className="w-64 font-bold">3. Hold it still again.</span>
            <Button
              main
              disabled={busy || from === null || !good || live.state !== 'live'}
              onClick={() =>
                look((mean) =>
                  save.mutate(
                    {
                      socket: fitting.socket,
                      kind: sensor.kind,
                      surface: 'turned by hand',
                      truth,
                      values: [Number((mean - from!).toFixed(3))],
                    },
                    { onSuccess: () => setFrom(null) },
                  ),
                )
              }
            >
              Note what it reads now
            </Button>
          </li>
        </ol>
        {room ? (
          <div className="mt-6">
            <StandInHand robotId={robot.id} surfaces={[]} room={room} kind={sensor.kind} />
          </div>
        ) : null}
      </Panel>
      <Panel title="What it makes of a turn">
        {found.ok ? (
          <>
            <Figure label="it reads per 90° turned" value={formatNumber(90 * found.value.scale)} unit="deg" />
            <div className="my-3">
              <FindingCard
                tone={found.value.right ? 'done' : 'risk'}
                says={found.value.says}
                more={found.value.mend}
              />
            </div>
            <table className="w-full">
              <TableHead columns={['turned, deg', '|read, deg', '|off, deg', '']} />
              <tbody>
                {turns.map(({ set, truth: at, reading }) => (
                  <tr key={set.id} className="h-12 border-t border-line-soft">
                    <th scope="row" className="text-left">
                      <span className="font-mono text-xl font-bold">{formatNumber(at)}</span>
                      <span className="ml-2 font-normal text-ink-2">{ago(set.at, now)}</span>
                    </th>
                    <td className="text-right font-mono text-xl">{formatNumber(reading)}</td>
                    <td className="text-right font-mono">{formatNumber(reading - at)}</td>
                    <td className="text-right">
                      <RemoveButton
                        title={`Remove the turn by ${formatNumber(at)}°`}
                        onClick={() => void remove(set.id)}
                      />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        ) : (
          <p className="text-ink-2">
            No turn noted yet. Use a set square, a tile edge or a protractor, and turn both ways. Whether the
            heading creeps at rest is told under Check.
          </p>
        )}
        <div className="mt-3">
          <WorkingLink
            sheet="overshoot"
            numbers={{ ...robotNumbers({ kit, build: reader.build }, { socket: fitting.socket }), angle: 90 }}
          >
            How far a turn overshoots
          </WorkingLink>
        </div>
      </Panel>
    </div>
  );
}
