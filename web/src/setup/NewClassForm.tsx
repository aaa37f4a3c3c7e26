import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { readTeamNames } from '@vigilum/core/formats';
import type { Kit } from '@vigilum/core/sensing';
import type { NewClass, RobotEntry } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { robotsChoices } from './robotsChoice.ts';
import { RobotsField } from './RobotsField.tsx';
import { TeamNamesField } from './TeamNamesField.tsx';

const field = 'flex min-w-0 flex-col gap-0.5';

/** A new class: its name, its teams, and the robots they take. */
export function NewClassForm({
  school,
  askSchool = true,
  kits,
  robots,
  kit,
  done,
}: {
  /** The school’s name as it is known. */
  school: string;
  askSchool?: boolean;
  kits: readonly Kit[];
  robots: readonly RobotEntry[];
  /** The kit whose robots are proposed. */
  kit?: string;
  done?: (id: number) => void;
}) {
  const save = useChange(
    (body: NewClass) => api('POST /classes', { body }),
    ({ id }) => [{ what: 'class', class: id, part: 'teams' }],
  );
  const { register, handleSubmit, reset, formState } = useForm({
    values: { school, name: '' },
    resetOptions: { keepDirtyValues: true },
    mode: 'onTouched',
  });
  const { errors } = formState;
  const [teams, setTeams] = useState('');
  const [touched, setTouched] = useState(false);
  const [key, setKey] = useState('');
  const { names, fault } = readTeamNames(teams);
  const choices = robotsChoices(kits, robots);
  const chosen =
    choices.find((one) => one.key === key) ?? choices.find((one) => one.robots.kit === kit) ?? choices[0];
  const submit = handleSubmit(async (typed) => {
    if (fault || !chosen) return;
    const body = {
      school: typed.school.trim(),
      name: typed.name.trim(),
      teams: names,
      robots: chosen.robots,
    };
    await save.mutateAsync(body).then(
      ({ id }) => {
        reset({ school: body.school, name: '' });
        setTeams('');
        setTouched(false);
        done?.(id);
      },
      () => undefined,
    );
  });
  const wanted = (what: string) => (text: string) => text.trim() !== '' || what;
  return (
    <form
      onSubmit={(event) => {
        setTouched(true);
        void submit(event);
      }}
      noValidate
      className="flex flex-col gap-3"
    >
      {askSchool ? (
        <label className={field}>
          <span className="text-ink-2">school</span>
          <input
            className="input w-full"
            maxLength={120}
            autoComplete="off"
            aria-invalid={!!errors.school}
            {...register('school', { validate: wanted('The name of the school.') })}
          />
          {errors.school ? <span className="text-fault">{errors.school.message}</span> : null}
        </label>
      ) : null}
      <label className={field}>
        <span className="text-ink-2">class</span>
        <input
          className="input w-full"
          maxLength={80}
          autoComplete="off"
          aria-invalid={!!errors.name}
          {...register('name', { validate: wanted('The name of the class.') })}
        />
        {errors.name ? <span className="text-fault">{errors.name.message}</span> : null}
      </label>
      <TeamNamesField text={teams} change={setTeams} touched={touched} />
      {chosen ? (
        <RobotsField choices={choices} chosen={chosen} choose={setKey} kits={kits} teams={names.length} />
      ) : (
        <p className="text-fault">There is no kit yet: add one under Robots, Kits.</p>
      )}
      <div>
        <Button main type="submit" disabled={save.isPending || !chosen}>
          Add the class
        </Button>
      </div>
    </form>
  );
}
