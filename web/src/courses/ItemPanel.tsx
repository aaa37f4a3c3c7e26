import { Trash2 } from 'lucide-react';
import {
  addItem,
  boards,
  darkTape,
  fieldsOfItem,
  itemAt,
  itemName,
  newItems,
  removeItem,
  setField,
  setLight,
  type Box,
  type Course,
  type ItemField,
  type ItemRef,
  type NewItem,
} from '@vigilum/core/course';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';
import { useState } from 'react';
import { Button } from '../ui/Button.tsx';
import { CheckBox } from '../ui/CheckBox.tsx';

const words: Record<NewItem, string> = {
  line: 'line',
  card: 'card',
  disc: 'round card',
  wall: 'wall',
  box: 'box',
  post: 'post',
  place: 'place to visit',
  start: 'start',
  landmark: 'line to measure from',
};

function NumberRow({ field, change }: { field: ItemField; change: (value: number) => void }) {
  const shown = formatNumber(field.value, 2).replace('−', '-');
  const [typed, setTyped] = useState(shown);
  const number = typedNumber(typed);
  const limit = field.unit === '0–1' ? 1 : 10_000;
  const good = typed.trim() !== '' && Number.isFinite(number) && Math.abs(number) <= limit;
  return (
    <label className="contents">
      <span className="self-center text-ink-2">{field.name}</span>
      <input
        className="input h-11 w-full px-2 text-right font-mono"
        inputMode="decimal"
        autoComplete="off"
        value={typed}
        aria-invalid={!good}
        onChange={(event) => {
          setTyped(event.target.value);
          const value = typedNumber(event.target.value);
          if (event.target.value.trim() !== '' && Number.isFinite(value) && Math.abs(value) <= limit)
            change(value);
        }}
      />
      <span className="self-center text-ink-2">{field.unit}</span>
    </label>
  );
}

/** Everything about the chosen thing as numbers, and what can be added. */
export function ItemPanel({
  course,
  chosen,
  choose,
  change,
  round,
}: {
  course: Course;
  chosen: ItemRef | null;
  choose: (ref: ItemRef | null) => void;
  change: (course: Course) => void;
  /** Counts undos and drags: fields show the course's numbers again. */
  round: string;
}) {
  const item = chosen && itemAt(course, chosen);
  const named = item && 'name' in item && chosen?.list !== 'starts';
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap gap-1.5" role="group" aria-label="Add">
        {newItems.map((what) => (
          <Button
            className="min-h-11 px-2.5"
            key={what}
            onClick={() => {
              const added = addItem(
                course,
                what,
                what === 'line'
                  ? darkTape
                  : { ...boards, name: 'card', reflectance: 0.45, colour: [0.7, 0.17, 0.16] },
              );
              change(added.course);
              choose(added.ref);
            }}
          >
            + {words[what]}
          </Button>
        ))}
      </div>
      {item && chosen ? (
        <section>
          <div className="flex items-center gap-2">
            <h3 className="font-bold">{itemName(course, chosen)}</h3>
            <Button
              icon={Trash2}
              className="ml-auto"
              disabled={chosen.list === 'starts' && course.starts.length === 1}
              onClick={() => {
                choose(null);
                change(removeItem(course, chosen));
              }}
            >
              Take it out
            </Button>
          </div>
          <div
            key={`${chosen.list}${chosen.index}${round}`}
            className="mt-2 grid grid-cols-[minmax(0,1fr)_7rem_3rem] gap-x-2 gap-y-1.5"
          >
            {named ? (
              <label className="contents">
                <span className="self-center text-ink-2">name</span>
                <input
                  className="input col-span-2 h-11 w-full"
                  maxLength={60}
                  defaultValue={(item as { name: string }).name}
                  onChange={(event) => {
                    const name = event.target.value.trim();
                    if (name) change(setField(course, chosen, 'name', name));
                  }}
                />
              </label>
            ) : null}
            {'surface' in item ? (
              <label className="contents">
                <span className="self-center text-ink-2">surface</span>
                <input
                  className="input col-span-2 h-11 w-full"
                  maxLength={60}
                  defaultValue={item.surface.name}
                  onChange={(event) => {
                    const name = event.target.value.trim();
                    if (name) change(setField(course, chosen, 'surface.name', name));
                  }}
                />
              </label>
            ) : null}
            {chosen.list === 'boxes' && !(item as Box).moves ? (
              <div className="col-span-3">
                <CheckBox
                  checked={(item as Box).light ?? false}
                  change={(light) => change(setLight(course, chosen.index, light))}
                >
                  light: the robot pushes it along
                </CheckBox>
              </div>
            ) : null}
            {fieldsOfItem(item).map((field) => (
              <NumberRow
                key={field.path}
                field={field}
                change={(value) => change(setField(course, chosen, field.path, value))}
              />
            ))}
          </div>
        </section>
      ) : (
        <p className="text-ink-2">
          Press a thing on the drawing to change it. Drag it, or move it with the arrow keys: 10 mm, with
          Shift 1 mm. Delete takes it out.
        </p>
      )}
    </div>
  );
}
