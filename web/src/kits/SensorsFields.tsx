import { typedNumber } from '@vigilum/core/quantity';
import { Plus } from 'lucide-react';
import { useFieldArray, type UseFormReturn } from 'react-hook-form';
import { facings, sensorKinds, sensorWords, unitsOfKind, type SensorKind } from '@vigilum/core/sensing';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { newMode, newSensor, type KitForm, type ModeForm } from './kitForm.ts';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { TableHead } from '../ui/TableHead.tsx';

const cell = 'input h-11 w-full min-w-18';

const modeNumbers = [
  ['min', 'lowest', -100_000, 100_000],
  ['max', 'highest', -100_000, 100_000],
  ['step', 'step', 0.0001, 10_000],
  ['samplePeriodMs', 'looks every, ms', 1, 10_000],
] as const;

/** The units of a mode's kind, and the one that stands there, so that what is wrong can be seen. */
const unitsFor = (mode: ModeForm | undefined) =>
  mode ? [...new Set([...unitsOfKind[mode.kind], mode.unit])] : [];

/** What one sensor can be set to: kind, unit, range, step, period, and the code that means no reading. */
function Modes({ form, i }: { form: UseFormReturn<KitForm>; i: number }) {
  const { control, register, setValue, watch, formState } = form;
  const { fields, append, remove } = useFieldArray({ control, name: `sensors.${i}.modes` });
  const now = watch(`sensors.${i}.modes`);
  const wrong = formState.errors.sensors?.[i]?.modes;
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full min-w-[52rem]">
        <TableHead
          columns={[
            'set to',
            'unit',
            ...modeNumbers.map(([, word]) => word),
            'no-reading code',
            'raw counts',
            'names of colours',
            '',
          ]}
        />
        <tbody>
          {fields.map((row, j) => (
            <tr key={row.id} className="align-top">
              <td className="py-1 pr-2">
                <select
                  aria-label={`Mode ${j + 1}`}
                  className={`${cell} min-w-36`}
                  {...register(`sensors.${i}.modes.${j}.kind`, {
                    // Unit, range and period are those of another kind now.
                    onChange: (event: { target: { value: string } }) =>
                      setValue(`sensors.${i}.modes.${j}`, newMode(event.target.value as SensorKind), {
                        shouldDirty: true,
                        shouldValidate: true,
                      }),
                  })}
                >
                  {sensorKinds
                    .filter((kind) => kind !== 'wheel')
                    .map((kind) => (
                      <option key={kind} value={kind}>
                        {sensorWords[kind]}
                      </option>
                    ))}
                </select>
              </td>
              <td className="py-1 pr-2">
                <select
                  aria-label={`Unit of mode ${j + 1}`}
                  className={`${cell} min-w-24`}
                  {...register(`sensors.${i}.modes.${j}.unit`)}
                >
                  {unitsFor(now[j]).map((unit) => (
                    <option key={unit} value={unit}>
                      {unit || 'none'}
                    </option>
                  ))}
                </select>
              </td>
              {modeNumbers.map(([key, word, least, most]) => (
                <td key={key} className="py-1 pr-2">
                  <input
                    aria-label={`${word} of mode ${j + 1}`}
                    className={`${cell} font-mono`}
                    inputMode="decimal"
                    aria-invalid={!!wrong?.[j]?.[key]}
                    {...register(`sensors.${i}.modes.${j}.${key}`, {
                      validate: (t) =>
                        (typedNumber(t) >= least && typedNumber(t) <= most) || `From ${least} to ${most}.`,
                    })}
                  />
                  {wrong?.[j]?.[key] ? (
                    <span className="text-sm text-fault">{wrong[j]?.[key]?.message}</span>
                  ) : null}
                </td>
              ))}
              <td className="py-1 pr-2">
                <input
                  aria-label={`No-reading code of mode ${j + 1}`}
                  className={`${cell} font-mono`}
                  inputMode="decimal"
                  placeholder="none"
                  {...register(`sensors.${i}.modes.${j}.noReading`)}
                />
              </td>
              <td className="py-1 pr-2">
                <input
                  aria-label={`Raw counts of mode ${j + 1}`}
                  className={`${cell} min-w-28 font-mono`}
                  placeholder="none"
                  title="What it counts at its lowest and at its highest reading, for example 910 to 130"
                  {...register(`sensors.${i}.modes.${j}.raw`, {
                    validate: (t) =>
                      t.trim() === '' ||
                      /^-?\d+(\.\d+)?\s+to\s+-?\d+(\.\d+)?$/.test(t.trim()) ||
                      'For example: 910 to 130.',
                  })}
                />
                {wrong?.[j]?.raw ? (
                  <span className="text-sm text-fault">{wrong[j]?.raw?.message}</span>
                ) : null}
              </td>
              <td className="py-1 pr-2">
                {now[j]?.kind === 'colour' ? (
                  <input
                    aria-label={`Names of colours of mode ${j + 1}`}
                    className={`${cell} min-w-48`}
                    placeholder="black, white, red"
                    {...register(`sensors.${i}.modes.${j}.colours`)}
                  />
                ) : null}
              </td>
              <td className="py-1">
                <RemoveButton
                  title={`Remove mode ${j + 1}`}
                  disabled={fields.length < 2}
                  onClick={() => remove(j)}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button
        icon={Plus}
        className="mt-1"
        onClick={() => append(newMode(sensorKinds.find((kind) => !now.some((mode) => mode.kind === kind))))}
      >
        Another mode
      </Button>
    </div>
  );
}

/** The sensors of a kit, each with its modes and how it must be mounted. */
export function SensorsFields({ form }: { form: UseFormReturn<KitForm> }) {
  const { control, register, watch, formState } = form;
  const { fields, append, remove } = useFieldArray({ control, name: 'sensors' });
  const now = watch('sensors');
  return (
    <Panel
      title="Sensors"
      footer={
        <Button
          icon={Plus}
          disabled={fields.length >= 40}
          onClick={() => append(newSensor(fields.length + 1))}
        >
          Another sensor
        </Button>
      }
    >
      {fields.length === 0 ? <p className="text-ink-2">No sensor yet.</p> : null}
      {fields.map((row, i) => {
        const wrong = formState.errors.sensors?.[i];
        const label = 'flex flex-col';
        return (
          <section
            key={row.id}
            className="border-t border-line py-4 first:border-t-0 first:pt-0"
            aria-label={now[i]?.name}
          >
            <div className="mb-2 grid grid-cols-2 gap-3 md:grid-cols-[1fr_1fr_1fr_7rem_7rem_2fr_auto]">
              <label className={label}>
                <span className="text-ink-2">sensor</span>
                <input
                  className={`${cell} font-bold`}
                  maxLength={40}
                  aria-invalid={!!wrong?.name}
                  {...register(`sensors.${i}.name`, { validate: (t) => t.trim() !== '' || 'A name.' })}
                />
                {wrong?.name ? <span className="text-fault">{wrong.name.message}</span> : null}
              </label>
              <label className={label}>
                <span className="text-ink-2">short name</span>
                <input
                  className={`${cell} font-mono`}
                  maxLength={40}
                  aria-invalid={!!wrong?.id}
                  {...register(`sensors.${i}.id`, {
                    validate: (t) => /^[a-z0-9-]{1,40}$/.test(t.trim()) || 'a–z, 0–9 and dashes.',
                  })}
                />
                {wrong?.id ? <span className="text-fault">{wrong.id.message}</span> : null}
              </label>
              <label className={label}>
                <span className="text-ink-2">must face</span>
                <select className={cell} {...register(`sensors.${i}.faces`)}>
                  <option value="">any way</option>
                  {facings.map((facing) => (
                    <option key={facing}>{facing}</option>
                  ))}
                </select>
              </label>
              {(['mountFrom', 'mountTo'] as const).map((key) => (
                <label key={key} className={label}>
                  <span className="text-ink-2">{key === 'mountFrom' ? 'from, mm' : 'to, mm'}</span>
                  <input
                    className={`${cell} font-mono`}
                    inputMode="decimal"
                    placeholder="height"
                    aria-invalid={!!wrong?.[key]}
                    {...register(`sensors.${i}.${key}`, {
                      validate: (t) =>
                        t.trim() === '' || (typedNumber(t) >= 0 && typedNumber(t) <= 500) || 'From 0 to 500.',
                    })}
                  />
                  {wrong?.[key] ? <span className="text-fault">{wrong[key]?.message}</span> : null}
                </label>
              ))}
              <label className={label}>
                <span className="text-ink-2">mounting advice</span>
                <input className={cell} maxLength={300} {...register(`sensors.${i}.mountAdvice`)} />
              </label>
              <RemoveButton
                title={`Remove ${now[i]?.name ?? 'sensor'}`}
                onClick={() => remove(i)}
                className="self-end"
              />
            </div>
            <Modes form={form} i={i} />
          </section>
        );
      })}
    </Panel>
  );
}
