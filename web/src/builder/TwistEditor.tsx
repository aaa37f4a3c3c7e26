import { Plus } from 'lucide-react';
import { useMemo, type ReactNode } from 'react';
import { courseFamilies } from '@vigilum/core/course';
import { sentence } from '@vigilum/core/expect';
import {
  boundPlaces,
  drawForTeams,
  formulaFor,
  TWIST_LIMIT,
  valuesInWords,
  type Lesson,
  type Twist,
  type TwistParameter,
} from '@vigilum/core/lesson';
import { formatNumber } from '@vigilum/core/quantity';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { without } from '../ui/without.ts';
import { ParameterFields, Text } from './twistFields.tsx';

export const noTwist: Twist = { parameters: [], constraints: [], bindings: [] };

/** Whether nothing of a twist is filled in, so that the lesson does without it. */
export const isEmpty = ({ parameters, constraints, bindings, family }: Twist): boolean =>
  parameters.length === 0 && constraints.length === 0 && bindings.length === 0 && !family;

/** What is drawn, what must hold between it, and what of the lesson follows it: from team to team, or from run to run. */
export function TwistEditor({
  twist,
  usual,
  each,
  faults,
  empty,
  put,
  children,
}: {
  twist: Twist;
  /** The lesson with its usual numbers: the places that can follow are its. */
  usual: Lesson;
  /** What gets a draw of its own. */
  each: 'team' | 'run';
  faults: readonly string[];
  /** What to say while nothing varies. */
  empty: string;
  put: (twist: Twist, field?: string) => void;
  /** What belongs to one kind only. */
  children?: ReactNode;
}) {
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
          <Button icon={Plus} onClick={() => fresh('number')}>
            Add a number
          </Button>
          <Button icon={Plus} onClick={() => fresh('word')}>
            Add a word
          </Button>
        </div>
      ) : null}
      {twist.parameters.length > 0 ? (
        <>
          <h3 className="font-bold">What must hold between them</h3>
          {twist.parameters.some(({ is }) => is === 'word') ? (
            <p className="-mt-2 text-ink-2">In a formula a word counts as its place in the list: 1, 2, 3 …</p>
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
                onClick={() => put({ ...twist, constraints: twist.constraints.filter((_, j) => j !== i) })}
              />
            </div>
          ))}
          <Button
            icon={Plus}
            className="w-fit"
            onClick={() =>
              put({ ...twist, constraints: [...twist.constraints, `${twist.parameters[0]!.name} > 0`] })
            }
          >
            Add a constraint
          </Button>
          <h3 className="font-bold">The course</h3>
          <Labelled beside label={<>made anew for each {each} as</>} className="flex-wrap">
            <select
              className="input h-11 w-auto"
              value={twist.family?.id ?? ''}
              onChange={(event) => {
                const rest = without(twist, 'family');
                put(event.target.value ? { ...rest, family: { id: event.target.value, values: {} } } : rest);
              }}
            >
              <option value="">the same course for every {each}</option>
              {courseFamilies.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </Labelled>
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
              <Labelled label="the number" className="min-w-56 flex-1">
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
              </Labelled>
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
          <Button
            icon={Plus}
            className="w-fit"
            disabled={!next}
            onClick={() =>
              next &&
              put({
                ...twist,
                bindings: [...twist.bindings, { at: next.at, value: proposed(next.at) }],
              })
            }
          >
            Let a number follow
          </Button>
        </>
      ) : (
        <p className="text-ink-2">{empty}</p>
      )}
      {children}
      {faults.length > 0 ? (
        <ul aria-label="What is wrong with it" className="flex flex-col gap-1">
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
  );
}
