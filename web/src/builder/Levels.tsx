import { Gauge, Plus } from 'lucide-react';
import { useState } from 'react';
import { TWIST_LIMIT, type NumberParameter, type Twist } from '@vigilum/core/lesson';
import { Button } from '../ui/Button.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { without } from '../ui/without.ts';
import { LevelsByTightness } from './LevelsByTightness.tsx';
import { NumberText, Text } from './twistFields.tsx';

/** Up to three levels of a challenge, each with narrower ranges. */
export function Levels({ twist, put }: { twist: Twist; put: (twist: Twist, field?: string) => void }) {
  const [measuring, setMeasuring] = useState(false);
  const levels = twist.levels ?? [];
  const numbers = twist.parameters.filter((one): one is NumberParameter => one.is === 'number');
  const set = (next: NonNullable<Twist['levels']>, field = '') =>
    put(next.length > 0 ? { ...twist, levels: next } : without(twist, 'levels'), field);
  return (
    <>
      <h3 className="font-bold">Levels of the challenge</h3>
      {levels.map((level, i) => {
        const change = (one: typeof level, field: string) =>
          set(
            levels.map((other, j) => (j === i ? one : other)),
            `level ${i} ${field}`,
          );
        return (
          <div key={i} className="flex flex-wrap items-end gap-2 border-l-4 border-l-line pl-3">
            <Text
              label={`level ${i + 1}`}
              className="min-w-40 flex-1"
              value={level.says}
              change={(says) => change({ ...level, says }, 'says')}
            />
            {numbers.map(({ name, from, to }) => {
              const range = level.ranges[name] ?? { from, to };
              const within = (next: { from: number; to: number }) =>
                change({ ...level, ranges: { ...level.ranges, [name]: next } }, name);
              return (
                <span key={name} className="flex gap-1">
                  <NumberText
                    label={`${name} from`}
                    value={range.from}
                    change={(value) => within({ ...range, from: value })}
                  />
                  <NumberText
                    label={`${name} to`}
                    value={range.to}
                    change={(value) => within({ ...range, to: value })}
                  />
                </span>
              );
            })}
            <RemoveButton
              title={`Take level ${i + 1} out`}
              onClick={() => set(levels.filter((_, j) => j !== i))}
            />
          </div>
        );
      })}
      <div className="flex flex-wrap gap-2">
        {levels.length < TWIST_LIMIT.levels ? (
          <Button
            icon={Plus}
            className="w-fit"
            onClick={() => set([...levels, { says: `level ${levels.length + 1}`, ranges: {} }])}
          >
            Add a level
          </Button>
        ) : null}
        <Button icon={Gauge} className="w-fit" onClick={() => setMeasuring(true)}>
          Set by how tight it is
        </Button>
      </div>
      {measuring ? (
        <LevelsByTightness
          numbers={numbers}
          put={(next) => set(next, 'levels measured')}
          close={() => setMeasuring(false)}
        />
      ) : null}
    </>
  );
}
