import type { ClassDetail } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { api } from '../data/api.ts';
import { useMe } from '../data/me.ts';
import { useAccounts, useChange } from '../data/queries.ts';

/** Whose class it is; owners choose it. */
export function TeacherOfClass({ klass }: { klass: ClassDetail }) {
  const { data: me } = useMe();
  return me?.role === 'owner' ? (
    <ChooseTeacher klass={klass} />
  ) : (
    <span className="text-ink-2">
      {klass.teacher ? `taught by ${klass.teacher.name}` : 'no teacher is named yet'}
    </span>
  );
}

function ChooseTeacher({ klass }: { klass: ClassDetail }) {
  const query = useAccounts();
  const hand = useChange(
    (teacher: number | null) => api('PATCH /classes/:id', { id: klass.id, body: { teacher } }),
    () => [{ what: 'class' as const, class: klass.id, part: 'teams' as const }],
  );
  const teachers = (query.data?.accounts ?? []).filter(({ role }) => role !== 'guest');
  return (
    <Labelled beside label="taught by">
      <select
        className="input h-11 w-48"
        title="The teacher of a class may remove it and forget its teams; so may owners."
        value={klass.teacher?.id ?? ''}
        onChange={(event) => hand.mutate(event.target.value === '' ? null : Number(event.target.value))}
      >
        <option value="">nobody yet</option>
        {teachers.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </Labelled>
  );
}
