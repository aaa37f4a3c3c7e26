import { Pencil, Plus, Printer } from 'lucide-react';
import { useState } from 'react';
import { countOf } from '@vigilum/core/quantity';
import { packingList, thingKinds, timetableOf, usable, type ThingKind } from '@vigilum/core/year';
import type { CupboardRobot, CupboardThing, NewThing, YearPlan } from '@vigilum/contract/types';
import { Button, IconButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useRemoval } from '../data/removal.ts';
import { useChange } from '../data/queries.ts';
import { Choice } from '../ui/Choice.tsx';
import { Labelled, SelectField, TextField } from '../ui/fields.tsx';
import { NumberField } from '../ui/NumberField.tsx';
import { Panel } from '../ui/Panel.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { usePlan } from './PlanLayout.tsx';
import { clockOf, planTouched } from './usePlan.ts';

const kindWords: Record<ThingKind, string> = {
  robots: 'robots',
  mat: 'mat',
  charger: 'charging places',
  room: 'room',
  box: 'boxes',
  other: 'other things',
};
const kinds = thingKinds.filter((kind) => kind !== 'robots');

const whole = (text: string, most: number): number | null => {
  const n = Number(text);
  return text.trim() !== '' && Number.isInteger(n) && n >= 0 && n <= most ? n : null;
};

function ThingForm({
  plan,
  begin,
  row,
  close,
}: {
  plan: YearPlan;
  begin: NewThing;
  row: number | null;
  close: () => void;
}) {
  const [kind, setKind] = useState(begin.kind);
  const [name, setName] = useState(begin.name);
  const [shelf, setShelf] = useState(begin.shelf);
  const [numbers, setNumbers] = useState({
    count: String(begin.count),
    broken: String(begin.broken),
    out: String(begin.out),
    beforeMin: String(begin.beforeMin),
    afterMin: String(begin.afterMin),
  });
  const save = useChange(
    async (body: NewThing): Promise<void> => {
      if (row === null) await api('POST /things', { body });
      else await api('PUT /things/:id', { id: row, body });
    },
    () => planTouched(),
  );
  const n = {
    count: whole(numbers.count, 999),
    broken: whole(numbers.broken, 999),
    out: whole(numbers.out, 999),
    beforeMin: whole(numbers.beforeMin, 480),
    afterMin: whole(numbers.afterMin, 480),
  };
  const { count, broken, out, beforeMin, afterMin } = n;
  const tooMany = count !== null && broken !== null && out !== null && broken + out > count;
  const good = name.trim() !== '' && !tooMany && Object.values(n).every((one) => one !== null);
  const field = (key: keyof typeof numbers, label: string) => (
    <NumberField
      label={label}
      value={numbers[key]}
      change={(text) => setNumbers({ ...numbers, [key]: text })}
      good={n[key] !== null}
      className="w-24"
    />
  );
  const mats = [...new Set(plan.lessons.map(({ mat }) => mat))];
  return (
    <form
      className="flex flex-wrap items-end gap-3 border-l-4 border-l-sea bg-sea-soft/50 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!good) return;
        save.mutate(
          {
            kind,
            name: name.trim(),
            shelf: shelf.trim(),
            count: count!,
            broken: broken!,
            out: out!,
            beforeMin: beforeMin!,
            afterMin: afterMin!,
          },
          { onSuccess: close },
        );
      }}
    >
      <SelectField
        label="what"
        value={kind}
        choose={setKind}
        options={kinds.map((one) => ({ id: one, name: kindWords[one] }))}
        width="w-44"
      />
      <Labelled label={kind === 'mat' ? 'name, as the lesson’s course has it' : 'name'}>
        <input
          className="input w-60"
          maxLength={80}
          autoComplete="off"
          list={kind === 'mat' ? 'mats of lessons' : undefined}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <datalist id="mats of lessons">
          {mats.map((mat) => (
            <option key={mat} value={mat} />
          ))}
        </datalist>
      </Labelled>
      <TextField label="shelf" most={40} value={shelf} change={setShelf} className="w-28" />
      {field('count', 'how many')}
      {field('broken', 'broken')}
      {field('out', 'out')}
      {kind === 'charger' ? null : field('beforeMin', 'lay out, min')}
      {field('afterMin', kind === 'charger' ? 'one charge, min' : 'clear away, min')}
      {tooMany ? <p className="basis-full text-fault">More are broken or out than there are.</p> : null}
      <div className="flex gap-2">
        <Button main type="submit" disabled={!good || save.isPending}>
          Save
        </Button>
        <Button onClick={close}>Cancel</Button>
      </div>
    </form>
  );
}

const away: readonly (NonNullable<CupboardRobot['away']> | 'here')[] = ['here', 'broken', 'out'];

/** The robots of one kit, each here, broken or out. */
function Robots({ plan, thing }: { plan: YearPlan; thing: CupboardThing }) {
  const kit = thing.id.slice('kit-'.length);
  const change = useChange(
    ({ id, to }: { id: number; to: CupboardRobot['away'] }) =>
      api('PUT /robots/:id/away', { id, body: { away: to } }),
    () => planTouched(),
  );
  return (
    <ul className="grid grid-cols-1 gap-x-6 xl:grid-cols-2">
      {plan.robots
        .filter((robot) => robot.kit === kit)
        .map(({ id, name, away: is }) => (
          <li key={id} className="flex flex-wrap items-center gap-2 border-t border-line-soft py-1">
            <span className="min-w-24 flex-1">{name}</span>
            <Choice
              label={`${name} is`}
              options={away}
              value={is ?? 'here'}
              choose={(to) => change.mutate({ id, to: to === 'here' ? null : to })}
            />
          </li>
        ))}
    </ul>
  );
}

const WEEK_MS = 7 * 86_400_000;

/** What the coming week takes out, shelf by shelf. */
function Packing({ plan }: { plan: YearPlan }) {
  const clock = clockOf(plan.zone);
  const [week, setWeek] = useState(0);
  const today = clock.iso(plan.now);
  const monday =
    Date.parse(`${today}T12:00Z`) -
    ((new Date(`${today}T12:00Z`).getUTCDay() + 6) % 7) * 86_400_000 +
    week * WEEK_MS;
  const [from, to] = [clock.iso(monday), clock.iso(monday + 6 * 86_400_000)];
  const table = timetableOf({ ...plan, now: 0 });
  const hours = table.hours.filter(
    ({ startsAt }) => from <= clock.iso(startsAt) && clock.iso(startsAt) <= to,
  );
  const list = packingList(hours, plan.things);
  const shelves = [...new Set(list.map(({ thing }) => thing.shelf))];
  return (
    <Panel
      title="Packing list"
      aside={`${clock.day(monday)} to ${clock.day(monday + 6 * 86_400_000)}`}
      footer={
        <span className="flex gap-2 print:hidden">
          <Choice
            label="Week"
            options={['0', '1'] as const}
            words={{ 0: 'This week', 1: 'Next week' }}
            value={week === 0 ? '0' : '1'}
            choose={(value) => setWeek(Number(value))}
          />
          <Button icon={Printer} onClick={() => window.print()}>
            Print
          </Button>
        </span>
      }
    >
      {list.length === 0 ? (
        <p className="text-ink-2">No hour of this week takes anything out of the cupboard.</p>
      ) : (
        shelves.map((shelf) => (
          <section key={shelf} className="border-t border-line-soft py-1.5 first:border-t-0">
            <h3 className="font-bold">{shelf === '' ? 'No shelf said' : shelf}</h3>
            <ul>
              {list
                .filter(({ thing }) => thing.shelf === shelf)
                .map(({ thing, most, hours: by }) => (
                  <li key={thing.id} className="flex gap-3">
                    <span
                      className={`w-14 shrink-0 text-right font-mono ${most > usable(thing) ? 'font-bold text-fault' : ''}`}
                    >
                      {most > usable(thing) ? '✕ ' : ''}
                      {most} ×
                    </span>
                    <span className="min-w-0">
                      {thing.name}{' '}
                      <span className="text-ink-2">
                        {by.map((hour) => `${hour.class.name}, ${clock.when(hour.startsAt)}`).join('; ')}
                      </span>
                    </span>
                  </li>
                ))}
            </ul>
          </section>
        ))
      )}
    </Panel>
  );
}

const blank: NewThing = {
  kind: 'mat',
  name: '',
  shelf: '',
  count: 1,
  broken: 0,
  out: 0,
  beforeMin: 0,
  afterMin: 0,
};

/** What there is, what of it is broken or out, and what the week takes. */
export default function CupboardPage() {
  const plan = usePlan();
  const [editing, setEditing] = useState<string | null>(null);
  const remove = useRemoval('things', 'It is removed.', () => planTouched());
  const close = () => setEditing(null);
  return (
    <div
      className="grid min-h-0 flex-1 grid-cols-1 gap-3 lg:grid-cols-[minmax(0,1fr)_25rem] lg:grid-rows-[minmax(0,1fr)]"
      data-part="Cupboard"
    >
      <Panel
        className="shrink-0 print:hidden lg:shrink"
        title="In the cupboard"
        aside="robots by their kits; a mat is short only where it stands here"
        footer={
          editing === null ? (
            <Button icon={Plus} onClick={() => setEditing('new')}>
              One more thing
            </Button>
          ) : null
        }
      >
        {editing === 'new' ? <ThingForm plan={plan} begin={blank} row={null} close={close} /> : null}
        <div className="relative overflow-x-auto">
          <table className="w-full">
            <TableHead
              columns={['thing', 'shelf', '|there', '|broken', '|out', '|to use', '|around an hour, min', '']}
            />
            <tbody>
              {plan.things.flatMap((thing) => {
                const open = editing === thing.id;
                return [
                  <tr key={thing.id} className="border-t border-line-soft">
                    <th scope="row" className="py-1 pr-3 text-left">
                      {thing.name}{' '}
                      {thing.kind === 'robots' ? null : (
                        <span className="font-normal text-ink-2">{kindWords[thing.kind]}</span>
                      )}
                    </th>
                    <td className="pr-3">{thing.shelf}</td>
                    <td className="pr-3 text-right font-mono">{thing.count}</td>
                    <td className="pr-3 text-right font-mono">{thing.broken}</td>
                    <td className="pr-3 text-right font-mono">{thing.out}</td>
                    <td className="pr-3 text-right font-mono font-bold">{usable(thing)}</td>
                    <td className="pr-3 text-right font-mono">
                      {thing.kind === 'charger'
                        ? `charge ${thing.afterMin}`
                        : `${thing.beforeMin} + ${thing.afterMin}`}
                    </td>
                    <td className="text-right whitespace-nowrap">
                      <IconButton
                        icon={Pencil}
                        label={thing.row === null ? `Which ${thing.name} are here` : `Change ${thing.name}`}
                        aria-expanded={open}
                        onClick={() => setEditing(open ? null : thing.id)}
                      />
                      {thing.row === null ? null : (
                        <RemoveButton
                          title={`Remove ${thing.name}`}
                          onClick={() => void remove(thing.row!)}
                        />
                      )}
                    </td>
                  </tr>,
                  open ? (
                    <tr key={`${thing.id} open`}>
                      <td colSpan={8} className="pb-3">
                        {thing.row === null || thing.kind === 'robots' ? (
                          <Robots plan={plan} thing={thing} />
                        ) : (
                          <ThingForm
                            plan={plan}
                            begin={{ ...thing, kind: thing.kind }}
                            row={thing.row}
                            close={close}
                          />
                        )}
                      </td>
                    </tr>
                  ) : null,
                ];
              })}
            </tbody>
          </table>
        </div>
        <RobotTimes plan={plan} />
        <p className="pt-2 text-ink-2">
          {countOf(plan.classes.length, 'class', 'classes')} take from here. Lessons whose mat is not here lay
          theirs out with tape.
        </p>
      </Panel>
      <Packing plan={plan} />
    </div>
  );
}

/** How long robots are laid out and cleared away around an hour. */
function RobotTimes({ plan }: { plan: YearPlan }) {
  const [before, setBefore] = useState(String(plan.robotTimes.beforeMin));
  const [after, setAfter] = useState(String(plan.robotTimes.afterMin));
  const save = useChange(
    (robotTimes: YearPlan['robotTimes']) => api('PATCH /plan', { body: { robotTimes } }),
    () => planTouched(),
  );
  const [a, b] = [whole(before, 480), whole(after, 480)];
  const same = a === plan.robotTimes.beforeMin && b === plan.robotTimes.afterMin;
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-3 border-t border-line-soft pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (a !== null && b !== null) save.mutate({ beforeMin: a, afterMin: b });
      }}
    >
      <NumberField
        label="lay robots out, min before"
        value={before}
        change={setBefore}
        good={a !== null}
        className="w-24"
      />
      <NumberField
        label="clear them away, min after"
        value={after}
        change={setAfter}
        good={b !== null}
        className="w-24"
      />
      <Button type="submit" disabled={a === null || b === null || same || save.isPending}>
        Save
      </Button>
    </form>
  );
}
