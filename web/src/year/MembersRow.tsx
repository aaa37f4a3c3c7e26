import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import type { TeamMember } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { isoDay } from '../ui/time.ts';

/** Who is in a team, by nicknames, and who was; on paper the names alone. */
export function MembersRow({
  team,
  klass,
  members,
}: {
  team: number;
  klass: number;
  members: readonly TeamMember[];
}) {
  const [name, setName] = useState('');
  const told = () => [{ what: 'class' as const, class: klass, part: 'skills' as const }];
  const add = useChange(
    (nickname: string) => api('POST /teams/:id/members', { id: team, body: { nickname } }),
    told,
  );
  const leave = useChange(
    (member: number) => api('DELETE /teams/:id/members/:member', { id: team, member }),
    told,
  );
  const now = members.filter(({ leftAt }) => leftAt === null);
  const before = members.filter(({ leftAt }) => leftAt !== null);
  return (
    <section aria-label="Members" className="flex flex-wrap items-center gap-x-3 gap-y-2">
      <span className="text-ink-2">{now.length === 0 ? 'No nickname is written down yet.' : 'With'}</span>
      {now.map(({ id, nickname }) => (
        <span
          key={id}
          className="inline-flex items-center rounded-lg border border-edge bg-sheet pl-3 print:border-0 print:pl-0"
        >
          {nickname}
          <button
            type="button"
            className="inline-grid size-11 place-items-center print:hidden"
            title={`${nickname} has left the team`}
            disabled={leave.isPending}
            onClick={() => leave.mutate(id)}
          >
            <X size={18} aria-hidden="true" />
            <span className="sr-only">{nickname} has left the team</span>
          </button>
        </span>
      ))}
      <form
        className="flex items-center gap-2 print:hidden"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim() !== '') add.mutate(name.trim(), { onSuccess: () => setName('') });
        }}
      >
        <input
          className="input w-44"
          maxLength={30}
          autoComplete="off"
          aria-label="a nickname, no real name"
          placeholder="a nickname"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Button icon={Plus} type="submit" disabled={name.trim() === '' || add.isPending}>
          Add
        </Button>
      </form>
      {before.length > 0 ? (
        <span className="text-ink-2">
          before:{' '}
          {before
            .map(({ nickname, cameAt, leftAt }) => `${nickname} (${isoDay(cameAt)} to ${isoDay(leftAt!)})`)
            .join(', ')}
        </span>
      ) : null}
    </section>
  );
}
