import { useState } from 'react';
import { staleVerdicts } from '@vigilum/core/classroom';
import { formatNumber } from '@vigilum/core/quantity';
import { asNumber, QUICK_LOOKS, summaryOf } from '@vigilum/core/sensing';
import { Button } from '../../ui/Button.tsx';
import { LiveFigure } from '../../reading/LiveFigure.tsx';
import { StandInHand } from '../../reading/StandInHand.tsx';
import type { Reader } from '../../reading/reader.ts';
import { liveNote } from '../../reading/SurfaceBoard.tsx';
import { useBurst } from '../../reading/useBurst.ts';
import { FindingCard } from '../../ui/Finding.tsx';
import { Panel } from '../../ui/Panel.tsx';
import { ago, useNow } from '../../ui/time.ts';
import { useKey } from '../../ui/useKey.ts';
import { useStage } from '../../workspace/context.ts';
import { TableHead } from '../../ui/TableHead.tsx';
import { useSaveQuickLooks } from '../../reading/saves.ts';

/** Five quick looks: do the stored readings still hold, or must everything be read again? */
export function StaleView({ reader, readAgain }: { reader: Reader; readAgain: () => void }) {
  const context = useStage();
  const { robot, record, sets } = context;
  const { lesson, threshold } = record;
  const { socket } = lesson.need;
  const now = useNow(15_000) + context.skew;
  const read = lesson.read.tasks.filter((task) => sets.some((set) => set.surface === task.surface));
  const [surface, setSurface] = useState(read[0]?.surface ?? '');
  const save = useSaveQuickLooks(robot.id);
  const { live, taking, take } = useBurst(robot.id, socket, reader.epoch);
  const busy = taking !== null || save.isPending;
  const look = () => {
    if (busy || surface === '') return;
    take(QUICK_LOOKS, (looks) => save.mutate({ socket, surface, values: looks.map(asNumber) }));
  };
  useKey(' ', look);
  const verdicts = staleVerdicts(record);
  const stale = verdicts.some(({ verdict }) => verdict === 'read again');
  const { unit } = reader.sensor;
  return (
    <div className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]">
      <Panel
        title="Do the readings still hold?"
        aside={`${QUICK_LOOKS} quick looks tell`}
        footer={
          <>
            <Button main disabled={busy || live.state !== 'live' || surface === ''} onClick={look}>
              {taking ? `${taking.length} of ${QUICK_LOOKS} …` : `Take ${QUICK_LOOKS} quick looks`}{' '}
              <kbd className="kbd">Space</kbd>
            </Button>
            {stale ? <Button onClick={readAgain}>Read the surfaces again</Button> : null}
          </>
        }
      >
        <div className="mb-3 flex flex-wrap items-center gap-x-6 gap-y-2">
          <LiveFigure sensor={reader.sensor} value={live.latest} note={liveNote(live.state, socket)} />
          {robot.standIn ? (
            <StandInHand
              robotId={robot.id}
              surfaces={lesson.read.tasks.map((task) => task.surface)}
              room={reader.room}
            />
          ) : null}
        </div>
        {read.length === 0 ? (
          <p className="text-ink-2">Nothing is read yet, so nothing can be stale. Read the surfaces first.</p>
        ) : (
          <table className="w-full">
            <TableHead columns={['surface', `|was, ${unit}`, `|now, ${unit}`, '|margin eaten', 'verdict']} />
            <tbody>
              {read.map(({ surface: name }) => {
                const set = sets.find((s) => s.surface === name)!;
                const mean = summaryOf(set).mean;
                const found = verdicts.find((v) => v.surface === name);
                return (
                  <tr
                    key={name}
                    className={`h-14 border-t border-line-soft ${surface === name ? 'bg-sea-soft' : ''}`}
                  >
                    <th scope="row" className="text-left font-normal">
                      <label className="flex min-h-12 cursor-pointer items-center gap-3 px-2">
                        <input
                          type="radio"
                          name="checked surface"
                          className="size-5 accent-(--sea)"
                          checked={surface === name}
                          onChange={() => setSurface(name)}
                        />
                        <span>
                          <span className="block font-bold">{name}</span>
                          <span className="text-ink-2">read {ago(set.at, now)}</span>
                        </span>
                      </label>
                    </th>
                    <td className="text-right font-mono text-xl">{formatNumber(mean)}</td>
                    <td className="text-right font-mono text-xl font-bold">
                      {found?.shift === undefined || found.shift === null
                        ? '–'
                        : formatNumber((mean ?? 0) + found.shift)}
                    </td>
                    <td className="text-right font-mono">
                      {found?.eaten === undefined || found.eaten === null || !Number.isFinite(found.eaten)
                        ? '–'
                        : `${formatNumber(100 * found.eaten, 0)} %`}
                    </td>
                    <td className="pl-6 font-bold">{found ? found.verdict : 'not looked at'}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        )}
      </Panel>
      <Panel title="What that means">
        <div className="flex flex-col gap-3">
          {verdicts.map((v) => (
            <FindingCard
              key={v.surface}
              tone={({ keep: 'done', 'read again': 'fault', 'cannot tell': 'now' } as const)[v.verdict]}
              says={v.says}
              more={v.mend || `Looked at ${ago(v.at, now)}.`}
            />
          ))}
          {verdicts.length === 0 ? (
            <p className="text-ink-2">
              Put the robot over a surface that is read already and take five looks. They are compared with
              the stored readings{threshold ? ' and with the threshold in use' : ''}.
            </p>
          ) : null}
          <p className="text-ink-2">
            Stale means: the mean has moved by more than three standard errors, and the move eats more than a
            quarter of the margin; or the looks scatter far wider than the readings did. Anything less is not
            worth reading again for.
          </p>
        </div>
      </Panel>
    </div>
  );
}
