import { Ban, Gauge } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import {
  GUESSES,
  levelsBy,
  valuesTried,
  type GuessedShare,
  type KnownRobot,
  type Level,
  type NumberParameter,
} from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { Dialog } from '../ui/Dialog.tsx';
import { useLongWork } from '../ui/useLongWork.ts';
import { simulations } from '../workers/simulation.ts';
import { useBuilder } from './BuilderLayout.tsx';

const percent = (share: number) => formatNumber(100 * share, 0);

/** How many of those who guess pass, value by value of one number of the twist; and levels made of it. */
export function LevelsByTightness({
  numbers,
  put,
  close,
}: {
  numbers: readonly NumberParameter[];
  put: (levels: Level[]) => void;
  close: () => void;
}) {
  const { lesson } = useBuilder();
  const kits = useQuery({ queryKey: keys.kits, queryFn: () => api('GET /kits') });
  const [name, setName] = useState(numbers[0]!.name);
  const [found, setFound] = useState<GuessedShare[]>([]);
  const { going, run, cancel } = useLongWork();
  const parameter = numbers.find((one) => one.name === name) ?? numbers[0]!;
  const values = valuesTried(parameter);
  const kit = kits.data?.kits.find((one) => one.kit.slug === lesson.robot?.kit)?.kit;
  const known: KnownRobot | null =
    kit && lesson.robot
      ? { kit, build: lesson.robot.build, sets: [], thresholds: lesson.robot.thresholds }
      : null;
  const measure = () =>
    run(async (mine) => {
      setFound([]);
      const rows: GuessedShare[] = [];
      const left = [...values];
      await Promise.all(
        simulations().map(async (worker) => {
          for (let value = left.shift(); value !== undefined && mine(); value = left.shift()) {
            const row = await worker.guessed(lesson, known!, parameter.name, value);
            if (!mine()) return;
            if (row) rows.push(row);
            setFound([...rows].sort((a, b) => a.value - b.value));
          }
        }),
      );
    });
  const begun = useRef(false);
  useEffect(() => {
    if (begun.current || !known) return;
    begun.current = true;
    void measure();
  });
  const unit = parameter.unit ? ` ${parameter.unit === 'deg' ? '°' : parameter.unit}` : '';
  const done = !going && found.length > 0 && found.length === values.length;
  const proposal = done ? levelsBy(parameter, found) : null;
  return (
    <Dialog title="Levels by how tight the lesson is" width="w-[38rem]" close={close}>
      <p className="text-ink-2">
        {GUESSES} guesses for each value: the model answer with its one or two main numbers anywhere from a
        third to three times what works, a run each.
      </p>
      {numbers.length > 1 ? (
        <Labelled beside label="number" className="mt-2 flex-wrap">
          <select
            className="input h-11 w-auto"
            value={name}
            disabled={going}
            onChange={(event) => {
              setName(event.target.value);
              setFound([]);
            }}
          >
            {numbers.map((one) => (
              <option key={one.name} value={one.name}>
                {one.says}
              </option>
            ))}
          </select>
        </Labelled>
      ) : null}
      <table className="mt-2 w-full">
        <thead className="text-left text-ink-2">
          <tr>
            <th scope="col">{parameter.says}</th>
            <th scope="col" className="text-right">
              guesses that pass
            </th>
            <th scope="col" className="pl-4 text-right">
              surely between
            </th>
          </tr>
        </thead>
        <tbody>
          {values.map((value) => {
            const row = found.find((one) => one.value === value);
            return (
              <tr key={value} className="border-t border-line-soft">
                <td className="py-1 font-mono">
                  {formatNumber(value, 3)}
                  {unit}
                </td>
                <td className="text-right font-mono">
                  {row ? `${row.passes}/${row.runs}` : going ? '…' : '–'}
                </td>
                <td className="pl-4 text-right font-mono">
                  {row ? `${percent(row.low)} to ${percent(row.high)} %` : ''}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="mt-2" role="status">
        {kits.data && !known
          ? 'The lesson names no robot to run its model answer on.'
          : proposal
            ? proposal.says
            : !going && found.length === 0 && begun.current
              ? 'Nothing was measured: the model answer has no number to guess.'
              : ''}
      </p>
      <div className="mt-3 flex flex-wrap gap-2">
        {going ? (
          <Button icon={Ban} key="cancel" onClick={cancel}>
            Cancel at {found.length} of {values.length}
          </Button>
        ) : (
          <Button icon={Gauge} key="measure" disabled={!known} onClick={() => void measure()}>
            Measure {found.length > 0 ? 'again' : 'it'}
          </Button>
        )}
        {proposal?.levels ? (
          <Button
            main
            onClick={() => {
              put(proposal.levels);
              close();
            }}
          >
            Set levels 1 to {proposal.levels.length} so
          </Button>
        ) : null}
      </div>
    </Dialog>
  );
}
