import { Download, Printer } from 'lucide-react';
import { NavLink, useNavigate, useParams } from 'react-router';
import { Button, LinkButton } from '../ui/Button.tsx';
import { useToday } from '../data/queries.ts';
import { Empty } from '../ui/states.tsx';

/** The clock as people read it: 09:15. */
export const clockAt = (at: number): string =>
  new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });

const views = [
  { to: '', word: 'Thresholds' },
  { to: '/notes', word: 'Written down' },
];

/** Where a class has no team there is nothing to show, but a way to one. */
export function NoTeam() {
  return (
    <Empty title="This class has no team.">
      <LinkButton main to="/start">
        Add teams
      </LinkButton>
    </Empty>
  );
}

/** The head of a class’s boards: what it is, which period, and the way to the other boards. */
export function PeriodHead({ title, aside, save }: { title: string; aside: string; save: () => void }) {
  const { period = '' } = useParams();
  const today = useToday();
  const navigate = useNavigate();
  return (
    <div className="flex flex-wrap items-center gap-x-3 gap-y-2">
      <h1 className="text-title font-bold">{title}</h1>
      <span className="mr-auto text-ink-2">{aside}</span>
      <span className="flex flex-wrap gap-2 print:hidden">
        <nav aria-label="Boards of the class" className="flex gap-1">
          {views.map(({ to, word }) => (
            <NavLink
              key={word}
              to={`/class/${period}${to}`}
              end
              className={({ isActive }) =>
                `flex min-h-11 items-center rounded-lg border px-3 ${isActive ? 'border-sea bg-sea-soft font-bold text-sea' : 'border-edge bg-sheet'}`
              }
            >
              {word}
            </NavLink>
          ))}
        </nav>
        {(today.data?.periods.length ?? 0) > 1 ? (
          <select
            aria-label="Which period"
            className="input w-56"
            value={period}
            onChange={(event) => void navigate(`/class/${event.target.value}`)}
          >
            {today.data!.periods.map((p) => (
              <option key={p.id} value={p.id}>
                {clockAt(p.startsAt)} {p.class.name}
              </option>
            ))}
          </select>
        ) : null}
        <Button icon={Download} onClick={save}>
          Save as CSV
        </Button>
        <Button icon={Printer} onClick={() => window.print()}>
          Print
        </Button>
      </span>
    </div>
  );
}
