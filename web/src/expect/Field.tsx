import type { Course } from '@vigilum/core/course';
import { perShown, type ExpectationField, type FieldKind, type Happening } from '@vigilum/core/expect';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { useTyped } from '../ui/useTyped.ts';

interface Props {
  field: ExpectationField;
  value: unknown;
  change: (value: unknown) => void;
  course: Course;
  sockets: readonly string[];
}

const listOf = (is: FieldKind, course: Course): readonly { id: string; name: string }[] =>
  is === 'landmark'
    ? course.landmarks
    : is === 'track'
      ? (course.tracks ?? [])
      : is === 'box'
        ? (course.boxes ?? [])
        : (course.zones ?? []);

/** A number as typed, in the unit that is shown; only good ones are handed on. */
function NumberInput({ field, value, change }: Props) {
  const per = perShown[field.is] ?? 1;
  const signed = field.is === 'deg' || field.is === 'number';
  const read = (text: string): number | undefined => {
    const number = typedNumber(text);
    const good = text.trim() !== '' && Number.isFinite(number) && (signed || number >= 0);
    return good && Math.abs(number) <= 20_000 ? number * per : undefined;
  };
  const write = (number: number) => formatNumber(number / per, 3);
  const { typed, good, type } = useTyped(value as number, { write, read }, change);
  return (
    <>
      <input
        className="input w-full font-mono"
        inputMode="decimal"
        autoComplete="off"
        value={typed}
        aria-invalid={!good}
        onChange={(event) => type(event.target.value)}
      />
      {good ? null : <span className="text-fault">A number, 0 to 20000.</span>}
    </>
  );
}

const happenings: [Happening['is'], string][] = [
  ['pressed', 'a touch sensor is pressed'],
  ['reads', 'a sensor reads less or more than'],
  ['past', 'it has passed a line'],
  ['in zone', 'it is in a place'],
  ['box there', 'a box is there'],
  ['moves', 'it moves ahead'],
  ['stands', 'it stands'],
  ['reverses', 'it reverses'],
];

function freshHappening(is: Happening['is'], course: Course, sockets: readonly string[]): Happening {
  const socket = sockets[0] ?? 'K1';
  switch (is) {
    case 'pressed':
      return { is, socket };
    case 'reads':
      return { is, socket, op: '<', value: 50 };
    case 'past':
      return { is, landmark: course.landmarks[0]?.id ?? '' };
    case 'in zone':
      return { is, zone: course.zones?.[0]?.id ?? '' };
    case 'box there':
      return { is, box: course.boxes?.[0]?.id ?? '' };
    default:
      return { is };
  }
}

function HappeningInput({ value, change, course, sockets }: Props) {
  const what = value as Happening;
  const possible = happenings.filter(
    ([is]) =>
      (is !== 'past' || course.landmarks.length > 0) &&
      (is !== 'in zone' || (course.zones ?? []).length > 0) &&
      (is !== 'box there' || (course.boxes ?? []).length > 0),
  );
  const pick = (
    list: readonly { id: string; name: string }[],
    chosen: string,
    put: (id: string) => Happening,
  ) => (
    <select className="input w-full" value={chosen} onChange={(event) => change(put(event.target.value))}>
      {list.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
  const places = sockets.map((id) => ({ id, name: id }));
  return (
    <span className="flex flex-col gap-1">
      <select
        className="input w-full"
        value={what.is}
        onChange={(event) => change(freshHappening(event.target.value as Happening['is'], course, sockets))}
      >
        {possible.map(([is, word]) => (
          <option key={is} value={is}>
            {word}
          </option>
        ))}
      </select>
      {what.is === 'pressed' ? pick(places, what.socket, (socket) => ({ ...what, socket })) : null}
      {what.is === 'reads' ? (
        <span className="flex gap-1">
          {pick(places, what.socket, (socket) => ({ ...what, socket }))}
          {pick(
            [
              { id: '<', name: 'less than' },
              { id: '>', name: 'more than' },
            ],
            what.op,
            (op) => ({ ...what, op: op as '<' | '>' }),
          )}
          <input
            className="input w-24 font-mono"
            inputMode="decimal"
            aria-label="reading"
            defaultValue={formatNumber(what.value)}
            onChange={(event) => {
              const number = typedNumber(event.target.value);
              if (Number.isFinite(number)) change({ ...what, value: number });
            }}
          />
        </span>
      ) : null}
      {what.is === 'past'
        ? pick(course.landmarks, what.landmark, (landmark) => ({ ...what, landmark }))
        : null}
      {what.is === 'in zone' ? pick(course.zones ?? [], what.zone, (zone) => ({ ...what, zone })) : null}
      {what.is === 'box there' ? pick(course.boxes ?? [], what.box, (box) => ({ ...what, box })) : null}
    </span>
  );
}

/** Places in an order: each is put at the end of the list, or taken out of it. */
function ZonesInput({ value, change, course }: Props) {
  const chosen = value as string[];
  const zones = course.zones ?? [];
  return (
    <span className="flex flex-col gap-1">
      <span className="font-mono">
        {chosen.map((id) => zones.find((zone) => zone.id === id)?.name ?? id).join(' → ') || 'none yet'}
      </span>
      <span className="flex flex-wrap gap-1">
        {zones.map(({ id, name }) => (
          <Button className="px-2.5" key={id} onClick={() => change([...chosen, id])}>
            then {name}
          </Button>
        ))}
        {chosen.length > 1 ? (
          <Button className="px-2.5" onClick={() => change(chosen.slice(0, -1))}>
            not the last
          </Button>
        ) : null}
      </span>
    </span>
  );
}

/** One field of a sentence, as what it holds asks for. */
export function Field(props: Props) {
  const { field, value, change, course } = props;
  const input = () => {
    switch (field.is) {
      case 'text':
        return (
          <input
            className="input w-full"
            maxLength={160}
            value={value as string}
            onChange={(event) => change(event.target.value)}
          />
        );
      case 'formula':
        return (
          <textarea
            className="input h-auto py-2 min-h-24 w-full font-mono"
            maxLength={1000}
            spellCheck={false}
            value={value as string}
            onChange={(event) => change(event.target.value)}
          />
        );
      case 'texts':
        return (
          <textarea
            className="input h-auto py-2 min-h-20 w-full"
            value={(value as string[]).join('\n')}
            onChange={(event) => change(event.target.value.split('\n').slice(0, 12))}
          />
        );
      case 'landmark':
      case 'zone':
      case 'track':
      case 'box':
        return (
          <select
            className="input w-full"
            value={value as string}
            onChange={(event) => change(event.target.value)}
          >
            {listOf(field.is, course).map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        );
      case 'zones':
        return <ZonesInput {...props} />;
      case 'happening':
        return <HappeningInput {...props} />;
      default:
        return <NumberInput {...props} />;
    }
  };
  return (
    <Labelled label={field.label} className="min-w-0">
      {input()}
    </Labelled>
  );
}
