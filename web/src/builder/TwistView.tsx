import { useQuery } from '@tanstack/react-query';
import { Plus, Shuffle } from 'lucide-react';
import { useMemo, useState } from 'react';
import { courseFamilies } from '@vigilum/core/course';
import { sentence, type Proof } from '@vigilum/core/expect';
import {
  boundPlaces,
  drawForTeams,
  TWIST_LIMIT,
  twistFaults,
  valuesInWords,
  variantOf,
  type NumberParameter,
  type Twist,
  type TwistParameter,
  type TwistValues,
} from '@vigilum/core/lesson';
import { formatNumber, typedNumber } from '@vigilum/core/quantity';
import { get, post, remove } from '../data/api.ts';
import { useChange, useToday } from '../data/queries.ts';
import { Panel } from '../ui/Panel.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { VerdictMark } from '../ui/verdict.tsx';
import { without } from '../ui/without.ts';
import { useBuilder } from './BuilderLayout.tsx';

const none: Twist = { parameters: [], constraints: [], bindings: [] };
const unitWords = ['', 'cm', 'mm', 'in', 'deg', 's', '%'] as const;

function Text({
  label,
  value,
  change,
  className = 'w-28',
  mono = false,
}: {
  label: string;
  value: string;
  change: (text: string) => void;
  className?: string;
  mono?: boolean;
}) {
  return (
    <label className={`flex min-w-0 flex-col ${className}`}>
      <span className="text-ink-2">{label}</span>
      <input
        className={`input w-full ${mono ? 'font-mono' : ''}`}
        value={value}
        maxLength={200}
        onChange={(event) => change(event.target.value)}
      />
    </label>
  );
}

function NumberText({
  label,
  value,
  change,
}: {
  label: string;
  value: number;
  change: (value: number) => void;
}) {
  const [typed, setTyped] = useState(formatNumber(value, 4));
  return (
    <Text
      label={label}
      mono
      className="w-20"
      value={typed}
      change={(text) => {
        setTyped(text);
        const number = typedNumber(text);
        if (text.trim() !== '' && Number.isFinite(number)) change(number);
      }}
    />
  );
}

function ParameterFields({
  parameter,
  change,
}: {
  parameter: TwistParameter;
  change: (parameter: TwistParameter) => void;
}) {
  const both = (
    <>
      <Text label="name" mono value={parameter.name} change={(name) => change({ ...parameter, name })} />
      <Text
        label="what it is"
        className="min-w-40 flex-1"
        value={parameter.says}
        change={(says) => change({ ...parameter, says })}
      />
    </>
  );
  if (parameter.is === 'word')
    return (
      <>
        {both}
        <Text
          label="words, with commas"
          className="min-w-48 flex-1"
          value={parameter.words.join(', ')}
          change={(text) => {
            const words = text.split(',').map((word) => word.trim());
            change({
              ...parameter,
              words,
              usual: words.includes(parameter.usual) ? parameter.usual : words[0]!,
            });
          }}
        />
        <label className="flex flex-col">
          <span className="text-ink-2">usually</span>
          <select
            className="input h-11 w-auto"
            value={parameter.usual}
            onChange={(event) => change({ ...parameter, usual: event.target.value })}
          >
            {parameter.words.map((word) => (
              <option key={word}>{word}</option>
            ))}
          </select>
        </label>
      </>
    );
  const number = (field: 'from' | 'to' | 'step' | 'usual', label: string) => (
    <NumberText
      label={label}
      value={parameter[field]}
      change={(value) => change({ ...parameter, [field]: value })}
    />
  );
  return (
    <>
      {both}
      {number('from', 'from')}
      {number('to', 'to')}
      {number('step', 'step')}
      {number('usual', 'usually')}
      <label className="flex flex-col">
        <span className="text-ink-2">unit</span>
        <select
          className="input h-11 w-auto"
          value={parameter.unit}
          onChange={(event) => change({ ...parameter, unit: event.target.value as NumberParameter['unit'] })}
        >
          {unitWords.map((unit) => (
            <option key={unit} value={unit}>
              {unit || 'none'}
            </option>
          ))}
        </select>
      </label>
    </>
  );
}

interface Variant {
  team: { id: number; name: string };
  level: number | null;
  values: TwistValues | null;
  says: string;
  proof: Proof | null;
}

/** Draws every team's numbers, has each model answer judged, and hands them out. */
function HandOut({ ready }: { ready: boolean }) {
  const { lesson, saving } = useBuilder();
  const today = useToday();
  const classes = [
    ...new Map((today.data?.periods ?? []).map(({ class: own }) => [own.id, own] as const)).values(),
  ];
  const [chosen, setChosen] = useState<number | null>(null);
  const klass = classes.find(({ id }) => id === chosen) ?? classes[0];
  const [seed, setSeed] = useState(1);
  const [level, setLevel] = useState(0);
  const path = `/lessons/${encodeURIComponent(lesson.slug)}/variants`;
  const variants = useQuery({
    enabled: klass !== undefined,
    queryKey: ['lesson', lesson.slug, 'variants', klass?.id],
    queryFn: () => get<{ variants: Variant[] }>(`${path}/${klass!.id}`),
  });
  const hand = useChange(() =>
    post<{ handed: number; judged: number }>(path, { classId: klass!.id, seed, level }),
  );
  const back = useChange(() => remove(`${path}/${klass!.id}`));
  const levels = lesson.twist?.levels ?? [];
  if (!klass)
    return <p className="text-ink-2">No class meets today. Start a period, then hand the twist out.</p>;
  const handed = (variants.data?.variants ?? []).some(({ values }) => values !== null);
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <label className="flex flex-col">
          <span className="text-ink-2">class</span>
          <select
            className="input h-11 w-auto"
            value={klass.id}
            onChange={(event) => setChosen(Number(event.target.value))}
          >
            {classes.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <NumberText label="seed" value={seed} change={(value) => setSeed(Math.round(value) | 0)} />
        {levels.length > 0 ? (
          <label className="flex flex-col">
            <span className="text-ink-2">level</span>
            <select
              className="input h-11 w-auto"
              value={level}
              onChange={(event) => setLevel(Number(event.target.value))}
            >
              <option value={0}>all ranges</option>
              {levels.map(({ says }, i) => (
                <option key={i} value={i + 1}>
                  {i + 1}: {says}
                </option>
              ))}
            </select>
          </label>
        ) : null}
        <button
          type="button"
          className="btn btn-primary"
          disabled={!ready || saving.state !== 'saved' || hand.isPending}
          onClick={() => hand.mutate(undefined)}
        >
          <Shuffle size={18} aria-hidden="true" />{' '}
          {hand.isPending ? 'Proving every variant …' : 'Prove and hand out'}
        </button>
        {handed ? (
          <button type="button" className="btn btn-plain" onClick={() => back.mutate(undefined)}>
            Take all back
          </button>
        ) : null}
      </div>
      <table className="w-full">
        <thead>
          <tr className="text-left text-ink-2">
            <th className="py-1 pr-3 font-normal">team</th>
            <th className="py-1 pr-3 font-normal">its own values</th>
            <th className="py-1 font-normal">model answer</th>
          </tr>
        </thead>
        <tbody>
          {(variants.data?.variants ?? []).map(({ team, says, proof, level: own }) => (
            <tr key={team.id} className="border-t border-line-soft">
              <th scope="row" className="py-1.5 pr-3 text-left font-bold">
                {team.name}
              </th>
              <td className="py-1.5 pr-3">
                {says || <span className="text-ink-2">as the lesson usually is</span>}
                {own ? <span className="text-ink-2"> · level {own}</span> : null}
              </td>
              <td className="py-1.5 whitespace-nowrap">
                {proof ? (
                  <span className="flex items-center gap-1.5">
                    <VerdictMark tone={proof.verdict === 'proved' ? 'done' : 'fault'} />
                    {proof.verdict} {proof.passes}/{proof.runs}
                  </span>
                ) : null}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

/** Up to three levels of a challenge, each with narrower ranges. */
function Levels({ twist, put }: { twist: Twist; put: (twist: Twist, field?: string) => void }) {
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
      {levels.length < TWIST_LIMIT.levels ? (
        <button
          type="button"
          className="btn btn-plain w-fit"
          onClick={() => set([...levels, { says: `level ${levels.length + 1}`, ranges: {} }])}
        >
          <Plus size={18} aria-hidden="true" /> Add a level
        </button>
      ) : null}
    </>
  );
}

/** What differs from team to team: parameters, what follows them, and every team's own variant. */
export default function TwistView() {
  const { lesson, change } = useBuilder();
  const twist = lesson.twist ?? none;
  const put = (next: Twist, field = '') => {
    const empty = next.parameters.length === 0 && next.constraints.length === 0 && next.bindings.length === 0;
    change(empty && !next.family ? without(lesson, 'twist') : { ...lesson, twist: next }, field);
  };
  const faults = useMemo(() => twistFaults(lesson), [lesson]);
  const usual = useMemo(() => variantOf(lesson), [lesson]);
  const places = useMemo(
    () => boundPlaces(lesson, (i) => sentence(usual.expectations[i]!, usual.course)),
    [lesson, usual],
  );
  const sample = useMemo(
    () => (twist.parameters.length > 0 && faults.length === 0 ? drawForTeams(twist, 1, 3) : null),
    [twist, faults],
  );
  const family = courseFamilies.find(({ id }) => id === twist.family?.id);
  const fresh = (is: TwistParameter['is']) => {
    const names = new Set(twist.parameters.map(({ name }) => name));
    const name = ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'k', 'm', 'n', 'p'].find((one) => !names.has(one))!;
    const parameter: TwistParameter =
      is === 'number'
        ? { is, name, says: 'a number', unit: 'cm', from: 10, to: 20, step: 1, usual: 15 }
        : { is, name, says: 'a word', words: ['red', 'green'], usual: 'red' };
    put({ ...twist, parameters: [...twist.parameters, parameter] });
  };
  return (
    <div className="grid min-h-0 flex-1 gap-4 lg:grid-cols-[minmax(0,1.15fr)_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)]">
      <Panel title="What differs from team to team" aside="write {name} in any text or script">
        <div className="flex flex-col gap-3">
          {twist.parameters.map((parameter, i) => (
            <div key={i} className="flex flex-wrap items-end gap-2 border-l-4 border-l-signal pl-3">
              <ParameterFields
                parameter={parameter}
                change={(next) =>
                  put(
                    { ...twist, parameters: twist.parameters.map((one, j) => (j === i ? next : one)) },
                    `parameter ${i}`,
                  )
                }
              />
              <RemoveButton
                title={`Take ${parameter.name} out`}
                onClick={() => put({ ...twist, parameters: twist.parameters.filter((_, j) => j !== i) })}
              />
            </div>
          ))}
          {twist.parameters.length < TWIST_LIMIT.parameters ? (
            <div className="flex flex-wrap gap-2">
              <button type="button" className="btn btn-plain" onClick={() => fresh('number')}>
                <Plus size={18} aria-hidden="true" /> Add a number
              </button>
              <button type="button" className="btn btn-plain" onClick={() => fresh('word')}>
                <Plus size={18} aria-hidden="true" /> Add a word
              </button>
            </div>
          ) : null}
          {twist.parameters.length > 0 ? (
            <>
              <h3 className="font-bold">What must hold between them</h3>
              {twist.constraints.map((constraint, i) => (
                <div key={i} className="flex items-end gap-2">
                  <Text
                    label={`constraint ${i + 1}`}
                    mono
                    className="min-w-0 flex-1"
                    value={constraint}
                    change={(text) =>
                      put(
                        { ...twist, constraints: twist.constraints.map((one, j) => (j === i ? text : one)) },
                        `constraint ${i}`,
                      )
                    }
                  />
                  <RemoveButton
                    title={`Take constraint ${i + 1} out`}
                    onClick={() =>
                      put({ ...twist, constraints: twist.constraints.filter((_, j) => j !== i) })
                    }
                  />
                </div>
              ))}
              <button
                type="button"
                className="btn btn-plain w-fit"
                onClick={() =>
                  put({ ...twist, constraints: [...twist.constraints, `${twist.parameters[0]!.name} > 0`] })
                }
              >
                <Plus size={18} aria-hidden="true" /> Add a constraint
              </button>
              <h3 className="font-bold">The course</h3>
              <label className="flex flex-wrap items-center gap-2">
                <span className="text-ink-2">made anew for each team as</span>
                <select
                  className="input h-11 w-auto"
                  value={twist.family?.id ?? ''}
                  onChange={(event) => {
                    const rest = without(twist, 'family');
                    put(
                      event.target.value ? { ...rest, family: { id: event.target.value, values: {} } } : rest,
                    );
                  }}
                >
                  <option value="">the same course for all</option>
                  {courseFamilies.map(({ id, name }) => (
                    <option key={id} value={id}>
                      {name}
                    </option>
                  ))}
                </select>
              </label>
              {family && twist.family ? (
                <div className="flex flex-wrap gap-2">
                  {family.parameters.map(({ id, name, unit, usual: as }) => (
                    <Text
                      key={id}
                      mono
                      className="w-44"
                      label={`${name}${unit ? `, ${unit}` : ''} (usually ${as})`}
                      value={twist.family!.values[id] ?? ''}
                      change={(text) => {
                        const others = without(twist.family!.values, id);
                        put(
                          {
                            ...twist,
                            family: {
                              ...twist.family!,
                              values: text.trim() === '' ? others : { ...others, [id]: text },
                            },
                          },
                          `family ${id}`,
                        );
                      }}
                    />
                  ))}
                </div>
              ) : null}
              <h3 className="font-bold">Numbers that follow</h3>
              {twist.bindings.map(({ at, value }, i) => (
                <div key={i} className="flex flex-wrap items-end gap-2">
                  <label className="flex min-w-56 flex-1 flex-col">
                    <span className="text-ink-2">the number</span>
                    <select
                      className="input h-11 w-full"
                      value={at}
                      onChange={(event) =>
                        put({
                          ...twist,
                          bindings: twist.bindings.map((one, j) =>
                            j === i ? { ...one, at: event.target.value } : one,
                          ),
                        })
                      }
                    >
                      {places.some((place) => place.at === at) ? null : <option value={at}>{at}</option>}
                      {places.map((place) => (
                        <option key={place.at} value={place.at}>
                          {place.says} (now {formatNumber(place.value, 2)})
                        </option>
                      ))}
                    </select>
                  </label>
                  <Text
                    label="becomes"
                    mono
                    className="w-44"
                    value={value}
                    change={(text) =>
                      put(
                        {
                          ...twist,
                          bindings: twist.bindings.map((one, j) => (j === i ? { ...one, value: text } : one)),
                        },
                        `binding ${i}`,
                      )
                    }
                  />
                  <RemoveButton
                    title={`Let number ${i + 1} be`}
                    onClick={() => put({ ...twist, bindings: twist.bindings.filter((_, j) => j !== i) })}
                  />
                </div>
              ))}
              <button
                type="button"
                className="btn btn-plain w-fit"
                onClick={() =>
                  put({
                    ...twist,
                    bindings: [...twist.bindings, { at: places[0]!.at, value: twist.parameters[0]!.name }],
                  })
                }
              >
                <Plus size={18} aria-hidden="true" /> Let a number follow
              </button>
            </>
          ) : (
            <p className="text-ink-2">
              A twist gives each team its own numbers, so that a copied answer does not pass. Add one, then
              write its name in braces where it stands in the text.
            </p>
          )}
          {twist.parameters.some(({ is }) => is === 'number') ? <Levels twist={twist} put={put} /> : null}
          {faults.length > 0 ? (
            <ul aria-label="Faults of the twist" className="flex flex-col gap-1">
              {faults.map((says) => (
                <li key={says} className="border-l-4 border-l-fault pl-3 font-bold">
                  {says}
                </li>
              ))}
            </ul>
          ) : null}
          {sample && !sample.ok ? (
            <p className="border-l-4 border-l-fault pl-3 font-bold">
              {sample.says} {sample.mend}
            </p>
          ) : null}
          {sample?.ok ? (
            <p className="text-ink-2">
              For example: {sample.value.map((values) => valuesInWords(twist, values)).join('; ')}
            </p>
          ) : null}
        </div>
      </Panel>
      <Panel scrolls title="Every team its own">
        <HandOut ready={twist.parameters.length > 0 && faults.length === 0} />
      </Panel>
    </div>
  );
}
