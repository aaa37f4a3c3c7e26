import { Eraser } from 'lucide-react';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { countOf } from '@vigilum/core/quantity';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useChange } from '../data/queries.ts';
import { useMayRemove } from '../data/teacherOf.ts';
import { Dialog } from '../ui/Dialog.tsx';

/** What lies in a table, in a teacher's words; what is not named here is told as it is. */
const words: Readonly<Record<string, string>> = {
  teams: 'the team itself, its name and card',
  works: 'lessons it worked in',
  team_members: 'nicknames',
  script_versions: 'versions of scripts',
  script_documents: 'scripts',
  script_updates: 'changes of scripts',
  tries: 'tries',
  proofs: 'proofs',
  floor_trials: 'floor trials',
  sample_sets: 'sets of readings for its lessons',
  recordings: 'recordings for its lessons',
  quick_looks: 'quick looks',
  thresholds: 'thresholds',
  step_notes: 'notes',
  kept_versions: 'earlier states of notes',
  step_visits: 'visits of steps',
  lesson_places: 'places in lessons',
  lesson_variants: 'twists',
  homework: 'homework',
  skill_overrulings: 'what the teacher said of its skills',
  sessions: 'tablets that are signed in',
  mat_turns: 'turns on the mats',
  team_calls: 'calls for help',
  hour_notes: 'notes from the teacher',
  run_logs: 'logs of its robot',
};

/** Deletes all of a team, for good, after its name was typed; what it is is listed before. */
export function ForgetTeam({ team, klass }: { team: { id: number; name: string }; klass: number }) {
  const may = useMayRemove()(klass);
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState('');
  const navigate = useNavigate();
  const held = useQuery({
    enabled: open,
    queryKey: ['oblivion', String(team.id)],
    queryFn: () => api('GET /teams/:id/oblivion', { id: team.id }),
    staleTime: 0,
  });
  const forget = useChange(
    (name: string) => api('POST /teams/:id/oblivion', { id: team.id, body: { name } }),
    ({ rows }) => {
      toast(
        `${team.name} is forgotten: ${countOf(
          rows.reduce((sum, one) => sum + one.rows, 0),
          'row',
        )} deleted.`,
      );
      void navigate(`/classes/${klass}`);
      return [{ what: 'class', class: klass, part: 'teams' }];
    },
  );
  if (!may) return null;
  return (
    <>
      <Button icon={Eraser} className="w-fit print:hidden" onClick={() => setOpen(true)}>
        Forget this team
      </Button>
      {open ? (
        <Dialog title={`Forget ${team.name} for good`} close={() => setOpen(false)} width="w-[36rem]">
          <p>
            Everything that {team.name} ever did is deleted and cannot be brought back. Its robot, its class
            and the other teams stay. Backups that were made before still hold it; the oldest of seven goes
            each day.
          </p>
          {held.data ? (
            <ul className="my-2 grid grid-cols-1 gap-x-6 sm:grid-cols-2">
              {held.data.rows.map(({ table, rows }) => (
                <li key={table}>
                  <span className="font-mono">{rows}</span> {words[table] ?? table}
                </li>
              ))}
            </ul>
          ) : (
            <p className="my-2 text-ink-2">It counts what there is …</p>
          )}
          <Labelled label="type the team’s name to say that you mean it">
            <input
              className="input w-full"
              data-autofocus=""
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
            />
          </Labelled>
          <Button
            icon={Eraser}
            className="mt-3 border-fault text-fault"
            disabled={typed.trim().toLowerCase() !== team.name.toLowerCase() || forget.isPending}
            onClick={() => forget.mutate(typed.trim())}
          >
            Delete it all
          </Button>
        </Dialog>
      ) : null}
    </>
  );
}
