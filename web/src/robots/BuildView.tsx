import { typedNumber } from '@vigilum/core/quantity';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Plus } from 'lucide-react';
import { useState } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import {
  buildFaults,
  facings,
  sensorWords,
  type Facing,
  type Fitting,
  type RobotBuild,
  type SensorKind,
} from '@vigilum/core/sensing';
import type { RobotChange, RobotDetail } from '@vigilum/contract/types';
import { toast } from 'sonner';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api, ApiProblem } from '../data/api.ts';
import { ask } from '../data/feed.ts';
import { robotChange } from '../reading/saves.ts';
import { RobotPlan } from '../reading/RobotPlan.tsx';
import { Panel } from '../ui/Panel.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { RobotActions } from './RobotActions.tsx';
import { useRobotContext } from './RobotLayout.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';

/** Numbers are typed: texts until they are read. */
interface FittingForm {
  socket: string;
  sensorId: string;
  mode: SensorKind;
  aheadMm: string;
  rightMm: string;
  heightMm: string;
  facing: Facing | '';
}
interface BuildForm {
  name: string;
  cupboard: string;
  wheelDiameterMm: string;
  trackMm: string;
  lengthMm: string;
  widthMm: string;
  axleFromFrontMm: string;
  quirks: string;
  fittings: FittingForm[];
}

const measures = [
  ['wheelDiameterMm', 'wheel diameter, mm', 5, 500],
  ['trackMm', 'track, mm', 10, 1000],
  ['lengthMm', 'length, mm', 20, 2000],
  ['widthMm', 'width, mm', 20, 2000],
  ['axleFromFrontMm', 'front to axle, mm', 0, 2000],
] as const;

const between = (least: number, most: number) => (text: string) => {
  const value = typedNumber(text);
  return (value >= least && value <= most) || `From ${least} to ${most}.`;
};

const formOf = ({ name, cupboard, build }: RobotDetail): BuildForm => ({
  name,
  cupboard,
  wheelDiameterMm: String(build.wheelDiameterMm),
  trackMm: String(build.trackMm),
  lengthMm: String(build.lengthMm),
  widthMm: String(build.widthMm),
  axleFromFrontMm: String(build.axleFromFrontMm),
  quirks: (build.quirks ?? []).join('\n'),
  fittings: build.fittings.map((f) => ({
    ...f,
    aheadMm: String(f.aheadMm),
    rightMm: String(f.rightMm),
    heightMm: String(f.heightMm),
    facing: f.facing ?? '',
  })),
});

const buildOf = (form: BuildForm): RobotBuild => ({
  wheelDiameterMm: typedNumber(form.wheelDiameterMm),
  trackMm: typedNumber(form.trackMm),
  lengthMm: typedNumber(form.lengthMm),
  widthMm: typedNumber(form.widthMm),
  axleFromFrontMm: typedNumber(form.axleFromFrontMm),
  quirks: form.quirks
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== ''),
  fittings: form.fittings.map(({ facing, aheadMm, rightMm, heightMm, ...rest }): Fitting => ({
    ...rest,
    aheadMm: typedNumber(aheadMm),
    rightMm: typedNumber(rightMm),
    heightMm: typedNumber(heightMm),
    ...(facing === '' ? {} : { facing }),
  })),
});

/** How one robot is built: its measures, what is plugged in where, and what is odd about it. */
export default function BuildView() {
  const { detail } = useRobotContext();
  const { kit } = detail;
  const client = useQueryClient();
  const save = useMutation({
    mutationFn: (body: RobotChange) => api('PATCH /robots/:id', { id: detail.id, body }),
    onSuccess: () => ask(client, [robotChange(client, detail.id, 'build')]),
  });
  const form = useForm<BuildForm>({
    values: formOf(detail),
    resetOptions: { keepDirtyValues: true },
    mode: 'onTouched',
  });
  const { register, control, handleSubmit, formState, watch, setValue, reset } = form;
  const { errors, isDirty } = formState;
  const fittings = useFieldArray({ control, name: 'fittings' });
  const sockets = kit.sockets.filter(({ takes }) => takes === 'sensor').map(({ name }) => name);
  const now = watch();
  const preview = buildOf(now);
  const drawable = [preview.lengthMm, preview.widthMm, preview.trackMm, preview.wheelDiameterMm].every(
    (v) => v > 0,
  );
  const faults = buildFaults(kit, preview);
  // What is typed belongs to the robot as it was when the typing began.
  const [from, setFrom] = useState(detail.revision);
  if (!isDirty && from !== detail.revision) setFrom(detail.revision);
  const send = async (filled: BuildForm, revision: number): Promise<void> => {
    const body = {
      revision,
      name: filled.name.trim(),
      cupboard: filled.cupboard.trim(),
      build: buildOf(filled),
    };
    try {
      await save.mutateAsync(body);
      reset(filled);
      toast('Saved.');
    } catch (error) {
      const theirs = error instanceof ApiProblem && error.status === 409 ? error.body.theirs : undefined;
      if (!theirs) return void toast.error(sentenceOf(error));
      toast.error(
        'Somebody else saved this robot meanwhile. Yours is still on this page: keep it, or put it back.',
        {
          duration: 20_000,
          action: {
            label: 'Keep mine',
            onClick: () => void send(filled, (theirs as { revision: number }).revision),
          },
        },
      );
    }
  };
  const submit = handleSubmit((filled) => send(filled, from));
  const add = () => {
    const free = sockets.find((s) => !now.fittings.some(({ socket }) => socket === s)) ?? sockets[0]!;
    const part = kit.sensors[0]!;
    fittings.append({
      socket: free,
      sensorId: part.id,
      mode: part.modes[0]!.kind,
      aheadMm: '80',
      rightMm: '0',
      heightMm: String(part.mountMm ? (part.mountMm.from + part.mountMm.to) / 2 : 40),
      facing: part.faces ?? '',
    });
  };
  const cell = 'input h-11 w-full';
  const wide = [5, 8, 9.5, 4.75, 4.75, 4.75, 6.5];
  return (
    <form
      onSubmit={(event) => void submit(event)}
      noValidate
      className="grid min-h-0 flex-1 grid-cols-1 gap-4 lg:grid-cols-[minmax(0,1fr)_20rem] lg:grid-rows-[minmax(0,1fr)]"
    >
      <Panel
        title="What is plugged in where"
        aside="ahead of the axle and right of the middle line; left is negative"
        footer={
          <>
            <Button main type="submit" disabled={!isDirty || faults.length > 0 || save.isPending}>
              Save the build
            </Button>
            <Button disabled={!isDirty} onClick={() => reset()}>
              Put it back
            </Button>
            <Button icon={Plus} onClick={add}>
              Another sensor
            </Button>
            {faults.length > 0 ? (
              <span role="alert" className="font-semibold text-fault">
                ✕ {faults[0]!.says}.
              </span>
            ) : null}
          </>
        }
      >
        <div className="relative overflow-x-auto">
          <table className="w-full min-w-[45rem]">
            <thead className="text-left text-ink-2">
              <tr>
                {['socket', 'part', 'set to', 'ahead, mm', 'right, mm', 'height, mm', 'faces'].map(
                  (head, i) => (
                    <th
                      key={head}
                      scope="col"
                      className="py-1 pr-2 font-semibold whitespace-nowrap"
                      style={{ minWidth: `${wide[i]}rem` }}
                    >
                      {head}
                    </th>
                  ),
                )}
                <td />
              </tr>
            </thead>
            <tbody>
              {fittings.fields.map((row, i) => {
                const part = kit.sensors.find(({ id }) => id === now.fittings[i]?.sensorId);
                const wrong = errors.fittings?.[i];
                return (
                  <tr key={row.id} className="border-t border-line-soft align-top">
                    <td className="py-1.5 pr-2">
                      <select
                        aria-label={`Socket of sensor ${i + 1}`}
                        className={`${cell} font-mono font-bold`}
                        {...register(`fittings.${i}.socket`)}
                      >
                        {sockets.map((s) => (
                          <option key={s}>{s}</option>
                        ))}
                      </select>
                    </td>
                    <td className="py-1.5 pr-2">
                      <select
                        aria-label={`Part ${i + 1}`}
                        className={cell}
                        {...register(`fittings.${i}.sensorId`, {
                          onChange: (event: { target: { value: string } }) => {
                            const to = kit.sensors.find(({ id }) => id === event.target.value);
                            if (to) setValue(`fittings.${i}.mode`, to.modes[0]!.kind, { shouldDirty: true });
                          },
                        })}
                      >
                        {kit.sensors.map(({ id, name }) => (
                          <option key={id} value={id}>
                            {name}
                          </option>
                        ))}
                      </select>
                    </td>
                    <td className="py-1.5 pr-2">
                      <select
                        aria-label={`Mode of sensor ${i + 1}`}
                        className={cell}
                        {...register(`fittings.${i}.mode`)}
                      >
                        {(part?.modes ?? []).map(({ kind }) => (
                          <option key={kind} value={kind}>
                            {sensorWords[kind]}
                          </option>
                        ))}
                      </select>
                    </td>
                    {(['aheadMm', 'rightMm', 'heightMm'] as const).map((key) => (
                      <td key={key} className="py-1.5 pr-2">
                        <input
                          aria-label={`${{ aheadMm: 'Ahead', rightMm: 'Right', heightMm: 'Height' }[key]} of sensor ${i + 1}, mm`}
                          className={`${cell} font-mono`}
                          inputMode="decimal"
                          aria-invalid={!!wrong?.[key]}
                          {...register(`fittings.${i}.${key}`, {
                            validate: key === 'heightMm' ? between(0, 500) : between(-1000, 1000),
                          })}
                        />
                        {wrong?.[key] ? (
                          <span className="text-sm text-fault">{wrong[key]?.message}</span>
                        ) : null}
                      </td>
                    ))}
                    <td className="py-1.5 pr-2">
                      <select
                        aria-label={`Facing of sensor ${i + 1}`}
                        className={cell}
                        {...register(`fittings.${i}.facing`)}
                      >
                        <option value="">any way</option>
                        {facings.map((facing) => (
                          <option key={facing}>{facing}</option>
                        ))}
                      </select>
                    </td>
                    <td className="py-1.5">
                      <RemoveButton title={`Unplug sensor ${i + 1}`} onClick={() => fittings.remove(i)} />
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
        {fittings.fields.length === 0 ? <p className="py-3 text-ink-2">Nothing is plugged in.</p> : null}
        <div className="mt-4 grid grid-cols-2 gap-3 border-t border-line-soft pt-3 sm:grid-cols-3 lg:grid-cols-5">
          {measures.map(([key, word, least, most]) => (
            <Labelled label={word} key={key}>
              <input
                className="input w-full font-mono text-xl"
                inputMode="decimal"
                aria-invalid={!!errors[key]}
                {...register(key, { validate: between(least, most) })}
              />
              {errors[key] ? <span className="text-fault">{errors[key]?.message}</span> : null}
            </Labelled>
          ))}
        </div>
        <div className="mt-3 grid gap-3 sm:grid-cols-2">
          <Labelled label="name of the robot">
            <input
              className="input w-full"
              maxLength={80}
              autoComplete="off"
              aria-invalid={!!errors.name}
              {...register('name', { validate: (text) => text.trim() !== '' || 'A robot needs a name.' })}
            />
            {errors.name ? <span className="text-fault">{errors.name.message}</span> : null}
            <span className="mt-2 text-ink-2">cupboard it is kept in</span>
            <input
              className="input w-full"
              aria-label="cupboard it is kept in"
              maxLength={60}
              autoComplete="off"
              {...register('cupboard')}
            />
          </Labelled>
          <Labelled label="what is odd about it, one thing a line">
            <textarea
              className="input h-20 w-full py-2"
              placeholder="left wheel is weak"
              {...register('quirks')}
            />
          </Labelled>
        </div>
      </Panel>
      <Panel title="From above" aside="to scale" footer={<RobotActions detail={detail} />}>
        {drawable ? (
          <RobotPlan build={preview} kit={kit} watch="" />
        ) : (
          <p className="text-ink-2">Type its measures.</p>
        )}
        <ul className="mt-3 flex flex-col gap-2 text-ink-2">
          {preview.fittings.map((f, i) => {
            const part = kit.sensors.find(({ id }) => id === f.sensorId);
            return part?.mountAdvice ? (
              <li key={i}>
                <strong className="text-ink">{part.name}:</strong> {part.mountAdvice}
              </li>
            ) : null;
          })}
        </ul>
      </Panel>
    </form>
  );
}
