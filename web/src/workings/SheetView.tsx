import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { convert, formatNumber, typedNumber } from '@vigilum/core/quantity';
import { readInputs, type Input, type Worksheet } from '@vigilum/core/workings';
import { Labelled } from '../ui/fields.tsx';
import { useRobots } from '../data/queries.ts';
import { lengthUnits, type LengthUnit } from '../ui/lengthUnit.ts';
import { Fact, Figure, Panel } from '../ui/Panel.tsx';
import { robotNumbers } from './robotNumbers.ts';

interface Typed {
  text: string;
  /** Lengths may be typed in any unit of length. */
  unit: LengthUnit;
}

const digitsOf: Record<LengthUnit, number> = { mm: 1, cm: 2, in: 3 };

/** A typed number in the worksheet's own unit, as text; what is no number stays as it was typed. */
function inOwn({ unit }: Input, typed: Typed): string {
  if (unit !== 'mm' || typed.unit === 'mm') return typed.text;
  const value = typedNumber(typed.text);
  return !Number.isFinite(value) ? typed.text : String(convert(value, typed.unit, 'mm'));
}

/** One calculation: numbers in, working, results. Whose numbers are taken is the page's, so that one calculation follows another. */
export function SheetView({
  sheet,
  from,
  setFrom,
}: {
  sheet: Worksheet;
  from: string;
  setFrom: (robot: string) => void;
}) {
  const [params] = useSearchParams();
  const robots = useRobots();
  const factsOf = (name: string) => {
    const robot = robots.data?.robots.find((r) => r.name === name);
    return robot ? robotNumbers(robot) : null;
  };
  const [typed, setTyped] = useState<Record<string, Typed>>(() => {
    const facts = factsOf(from);
    const text = ({ key, usual }: Input) =>
      params.get(key) || (facts?.[key] === undefined ? formatNumber(usual, 3) : formatNumber(facts[key], 2));
    return Object.fromEntries(
      sheet.inputs.map((input) => [input.key, { text: text(input), unit: 'mm' as const }]),
    );
  });
  const { values, faults } = readInputs(
    sheet,
    Object.fromEntries(sheet.inputs.map((input) => [input.key, inOwn(input, typed[input.key]!)])),
  );
  const ready = Object.keys(faults).length === 0;
  const answer = ready ? sheet.answer(values) : null;
  const put = (key: string, change: Partial<Typed>) =>
    setTyped((was) => ({ ...was, [key]: { ...was[key]!, ...change } }));
  const changeUnit = (key: string, unit: LengthUnit) => {
    const was = typed[key]!;
    const value = typedNumber(was.text);
    put(key, {
      unit,
      ...(Number.isFinite(value)
        ? { text: formatNumber(convert(value, was.unit, unit), digitsOf[unit]) }
        : {}),
    });
  };
  const own = sheet.inputs.filter(({ key }) => ['diameter', 'track', 'brake', 'top'].includes(key));
  const take = (name: string) => {
    setFrom(name);
    const facts = factsOf(name);
    if (!facts) return;
    setTyped((was) => {
      const next = { ...was };
      for (const { key } of sheet.inputs)
        if (facts[key] !== undefined) next[key] = { text: formatNumber(facts[key], 2), unit: 'mm' };
      return next;
    });
  };
  const [first, ...rest] = answer?.results ?? [];
  return (
    <div className="grid min-h-0 grid-cols-1 gap-4 xl:grid-cols-[25rem_minmax(0,1fr)]">
      <Panel title={sheet.title} aside={sheet.asks}>
        <div className="flex flex-col gap-2.5">
          {own.length > 0 ? (
            <Labelled
              beside
              label="numbers of the robot"
              className="flex-wrap border-b border-line-soft pb-3"
            >
              <select className="input w-44" value={from} onChange={(event) => take(event.target.value)}>
                <option value="">typed by hand</option>
                {(robots.data?.robots ?? []).map(({ id, name }) => (
                  <option key={id}>{name}</option>
                ))}
              </select>
            </Labelled>
          ) : null}
          {sheet.inputs.map((input) => {
            const { key, label, unit } = input;
            const now = typed[key]!;
            return (
              <div key={key}>
                <div className="grid grid-cols-[minmax(0,1fr)_6.5rem_5rem] items-center gap-2">
                  <label htmlFor={`in-${key}`} className="leading-tight text-ink-2">
                    {label}
                  </label>
                  <input
                    id={`in-${key}`}
                    className="input w-full text-right font-mono text-lg"
                    inputMode="decimal"
                    autoComplete="off"
                    value={now.text}
                    aria-invalid={faults[key] !== undefined}
                    onChange={(event) => put(key, { text: event.target.value })}
                  />
                  {unit === 'mm' ? (
                    <select
                      aria-label={`unit of ${label}`}
                      className="input w-full"
                      value={now.unit}
                      onChange={(event) => changeUnit(key, event.target.value as LengthUnit)}
                    >
                      {lengthUnits.map((u) => (
                        <option key={u}>{u}</option>
                      ))}
                    </select>
                  ) : (
                    <span className="text-ink-2">{unit}</span>
                  )}
                </div>
                {faults[key] ? <p className="text-fault">{faults[key]}</p> : null}
              </div>
            );
          })}
        </div>
      </Panel>
      <Panel title="Answer">
        {answer && first ? (
          <>
            <Figure
              label={first.label}
              value={formatNumber(first.value, first.digits)}
              unit={first.unit}
              tone="text-signal"
            />
            <div className="mt-4 grid grid-cols-2 gap-4 md:grid-cols-3">
              {rest.map((result) => (
                <Fact
                  key={result.label}
                  label={result.label}
                  value={formatNumber(result.value, result.digits)}
                  unit={result.unit}
                />
              ))}
            </div>
            {answer.remark ? <p className="mt-4 font-semibold">{answer.remark}</p> : null}
            <div className="mt-4 border-t border-line-soft pt-3">
              <h3 className="font-bold">Working</h3>
              <p className="mt-1 text-ink-2">{sheet.formula}</p>
              <ol className="mt-2 flex flex-col gap-1 font-mono">
                {answer.lines.map((line) => (
                  <li key={line}>{line}</li>
                ))}
              </ol>
              <p className="mt-3 text-ink-2">Source: {sheet.source}.</p>
            </div>
          </>
        ) : (
          <p className="text-ink-2">Mend the numbers marked on the left; the answer follows as you type.</p>
        )}
      </Panel>
    </div>
  );
}
