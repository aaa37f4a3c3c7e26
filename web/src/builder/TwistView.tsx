import { Plus } from 'lucide-react';
import { useMemo } from 'react';
import { courseFamilies } from '@vigilum/core/course';
import { sentence } from '@vigilum/core/expect';
import {
  boundPlaces,
  drawForTeams,
  formulaFor,
  loneNumbers,
  textsFollow,
  TWIST_LIMIT,
  twistFaults,
  valuesInWords,
  variantOf,
  type Twist,
  type TwistParameter,
} from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { Panel } from '../ui/Panel.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { without } from '../ui/without.ts';
import { useBuilder } from './BuilderLayout.tsx';
import { HandOut } from './HandOut.tsx';
import { Levels } from './Levels.tsx';
import { ParameterFields, Text } from './twistFields.tsx';

const none: Twist = { parameters: [], constraints: [], bindings: [] };

/** What differs from team to team: parameters, what follows them, and every team's own variant. */
export default function TwistView() {
  const { lesson, change } = useBuilder();
  const twist = lesson.twist ?? none;
  const put = (next: Twist, field = '') => {
    const empty = next.parameters.length === 0 && next.constraints.length === 0 && next.bindings.length === 0;
    change(empty && !next.family ? without(lesson, 'twist') : { ...lesson, twist: next }, field);
  };
  const faults = useMemo(() => twistFaults(lesson), [lesson]);
  const lone = useMemo(() => loneNumbers(lesson), [lesson]);
  const usual = useMemo(() => variantOf(lesson), [lesson]);
  const places = useMemo(
    () => boundPlaces(usual, (i) => sentence(usual.expectations[i]!, usual.course)),
    [usual],
  );
  const next = places.find(({ at }) => !twist.bindings.some((bound) => bound.at === at));
  const first = twist.parameters[0];
  const proposed = (at: string): string => {
    const value = places.find((place) => place.at === at)?.value;
    if (!first) return '';
    return first.is === 'number' && value !== undefined ? formulaFor(first, value) : first.name;
  };
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
              {twist.parameters.some(({ is }) => is === 'word') ? (
                <p className="-mt-2 text-ink-2">
                  In a formula a word counts as its place in the list: 1, 2, 3 …
                </p>
              ) : null}
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
                            j === i
                              ? {
                                  at: event.target.value,
                                  // A formula that was typed is kept; a proposed one is proposed anew.
                                  value: value === proposed(at) ? proposed(event.target.value) : value,
                                }
                              : one,
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
                disabled={!next}
                onClick={() =>
                  next &&
                  put({
                    ...twist,
                    bindings: [...twist.bindings, { at: next.at, value: proposed(next.at) }],
                  })
                }
              >
                <Plus size={18} aria-hidden="true" /> Let a number follow
              </button>
            </>
          ) : (
            <p className="text-ink-2">
              A twist gives each team its own numbers. Add one, then write its name in braces where it stands
              in the text.
            </p>
          )}
          {twist.parameters.some(({ is }) => is === 'number') ? <Levels twist={twist} put={put} /> : null}
          {lone.map(({ parameter, says, places: where }) => (
            <div
              key={parameter}
              className="flex flex-wrap items-center gap-x-3 gap-y-2 border-l-4 border-l-brass pl-3"
            >
              <span>
                <strong>
                  “{says}” still stands in {where.join(', ')}.
                </strong>{' '}
                <span className="text-ink-2">Every team would read the usual number there.</span>
              </span>
              <button
                type="button"
                className="btn btn-plain"
                onClick={() => change(textsFollow(lesson), 'texts follow')}
              >
                Write {`{${parameter}}`} there
              </button>
            </div>
          ))}
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
