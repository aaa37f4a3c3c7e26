import { UserPlus } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { readTeamNames } from '@vigilum/core/formats';
import { countOf } from '@vigilum/core/quantity';
import type { ClassDetail, ClassEntry, Member, RobotEntry, RobotsFor } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange, useClasses, useKits, useRobots } from '../data/queries.ts';
import { useMayRemove } from '../data/teacherOf.ts';
import { useRemoval } from '../data/removal.ts';
import { robotsChoices } from '../setup/robotsChoice.ts';
import { RobotsField } from '../setup/RobotsField.tsx';
import { TeamNamesField } from '../setup/TeamNamesField.tsx';
import { Panel } from '../ui/Panel.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { useTyped } from '../ui/useTyped.ts';

const asIs = { write: (name: string) => name, read: (text: string) => text.trim() || undefined };

/** One team: its name, its robot, and the class it is in. */
function TeamRow({
  member,
  klass,
  robots,
  others,
}: {
  member: Member;
  klass: ClassDetail;
  robots: readonly RobotEntry[];
  others: readonly ClassEntry[];
}) {
  const tells = () => [{ what: 'class' as const, class: klass.id, part: 'teams' as const }];
  const rename = useChange(
    (name: string) => api('PATCH /teams/:id', { id: member.id, body: { name } }),
    tells,
  );
  const give = useChange(
    (robot: number) => api('PUT /teams/:id/robot', { id: member.id, body: { robot } }),
    tells,
  );
  const undoMove = useChange(async (added: number) => {
    await api('DELETE /teams/:id', { id: added });
    await api('POST /teams/:id/restoration', { id: member.id });
  }, tells);
  const mayRemove = useMayRemove();
  const move = useChange(
    (to: ClassEntry) => api('POST /teams/:id/moves', { id: member.id, body: { class: to.id } }),
    ({ id }, to) => {
      // This row is gone once the class has reloaded, so the message can't wait for it.
      toast(`${member.name} is in ${to.name} now. Its earlier work stays with ${klass.name}.`, {
        // Undo removes the team from the other class. Only that class's teacher may do this.
        ...(mayRemove(to.id) ? { action: { label: 'Undo', onClick: () => undoMove.mutate(id) } } : {}),
        duration: 10_000,
      });
      return tells();
    },
  );
  const remove = useRemoval(
    'teams',
    `${member.name} removed. What it did stays with the hours it was in.`,
    tells,
  );
  const { typed, type } = useTyped(member.name, asIs, () => undefined);
  const keep = () => {
    const name = typed.trim();
    if (name === '' || name === member.name) return type(member.name);
    type(name);
    rename.mutate(name, { onError: () => type(member.name) });
  };
  const word = (robot: { name: string; cupboard: string }) =>
    robot.cupboard ? `${robot.name}, ${robot.cupboard}` : robot.name;
  const choices = robots.filter(({ id, archived }) => !archived || id === member.robot.id);
  return (
    <li className="flex flex-wrap items-center gap-2 border-t border-line-soft py-1.5 first:border-t-0">
      <input
        className="input h-11 min-w-28 flex-1 font-bold"
        aria-label={`name of team ${member.name}`}
        maxLength={40}
        autoComplete="off"
        value={typed}
        onChange={(event) => type(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === 'Enter') event.currentTarget.blur();
          if (event.key === 'Escape') type(member.name);
        }}
      />
      <select
        className="input h-11 w-48"
        aria-label={`robot of ${member.name}`}
        value={member.robot.id}
        disabled={give.isPending}
        onChange={(event) =>
          give.mutate(Number(event.target.value), {
            onSuccess: ({ exchanged }) => {
              if (exchanged) toast('The two teams exchanged their robots.');
            },
          })
        }
      >
        {choices.map((robot) => (
          <option key={robot.id} value={robot.id}>
            {word(robot)}
          </option>
        ))}
      </select>
      {others.length > 0 && mayRemove(klass.id) ? (
        <select
          className="input h-11 w-30"
          aria-label={`move ${member.name} to another class`}
          value=""
          disabled={move.isPending}
          onChange={(event) => {
            const to = others.find(({ id }) => id === Number(event.target.value));
            if (to) move.mutate(to);
          }}
        >
          <option value="">move to …</option>
          {others.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      ) : null}
      {mayRemove(klass.id) ? (
        <RemoveButton title={`Remove team ${member.name}`} onClick={() => void remove(member.id)} />
      ) : null}
    </li>
  );
}

/** More teams for a class that is there. */
function AddTeams({ klass, close }: { klass: ClassDetail; close: () => void }) {
  const kits = (useKits().data?.kits ?? []).map(({ kit }) => kit);
  const robots = useRobots().data?.robots ?? [];
  const [text, setText] = useState('');
  const [touched, setTouched] = useState(false);
  const [key, setKey] = useState('');
  const { names, fault } = readTeamNames(text);
  // What the class has already is what it is likely to go on with.
  const usual = klass.members[0]?.robot;
  const choices = robotsChoices(
    kits,
    robots.filter(({ id }) => !klass.members.some(({ robot }) => robot.id === id)),
  );
  const chosen =
    choices.find((one) => one.key === key) ??
    choices.find(({ robots: of }) => of.kit === kits.find(({ name }) => name === usual?.kit)?.slug) ??
    choices[0];
  const add = useChange(
    (body: { teams: string[]; robots: RobotsFor }) => api('POST /classes/:id/teams', { id: klass.id, body }),
    () => [{ what: 'class', class: klass.id, part: 'teams' }],
  );
  return (
    <form
      className="mt-3 flex flex-col gap-3 border-t border-line pt-3"
      onSubmit={(event) => {
        event.preventDefault();
        setTouched(true);
        if (!fault && chosen) add.mutate({ teams: names, robots: chosen.robots }, { onSuccess: close });
      }}
    >
      <TeamNamesField text={text} change={setText} touched={touched} />
      {chosen ? (
        <RobotsField choices={choices} chosen={chosen} choose={setKey} kits={kits} teams={names.length} />
      ) : null}
      <span className="flex gap-2">
        <Button main type="submit" disabled={add.isPending || !chosen}>
          {names.length > 0 ? `Add ${countOf(names.length, 'team')}` : 'Add the teams'}
        </Button>
        <Button onClick={close}>Not now</Button>
      </span>
    </form>
  );
}

/** The teams of a class with their robots. */
export function TeamsPanel({ klass }: { klass: ClassDetail }) {
  const robots = useRobots().data?.robots ?? [];
  const classes = useClasses().data?.classes ?? [];
  const others = classes.filter(({ id, archived }) => id !== klass.id && !archived);
  const [adding, setAdding] = useState(false);
  return (
    <Panel
      title="Teams"
      aside={
        <Link to="/robots" className="inline-flex min-h-11 items-center underline">
          all robots
        </Link>
      }
    >
      {klass.members.length === 0 ? <p className="text-ink-2">No team yet.</p> : null}
      <ul>
        {klass.members.map((member) => (
          <TeamRow key={member.id} member={member} klass={klass} robots={robots} others={others} />
        ))}
      </ul>
      {adding ? (
        <AddTeams klass={klass} close={() => setAdding(false)} />
      ) : (
        <div className="mt-3">
          <Button icon={UserPlus} onClick={() => setAdding(true)}>
            Add teams
          </Button>
        </div>
      )}
    </Panel>
  );
}
