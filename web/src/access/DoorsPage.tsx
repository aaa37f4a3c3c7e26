import { Printer, QrCode as QrIcon, RefreshCw, TabletSmartphone } from 'lucide-react';
import { useParams } from 'react-router';
import { toast } from 'sonner';
import type { Doors, TeamDoor } from '@vigilum/contract/types';
import { countOf } from '@vigilum/core/quantity';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { queryClient, useChange, useDoors } from '../data/queries.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Panel } from '../ui/Panel.tsx';
import { QrCode } from '../ui/QrCode.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { TeamPicture } from '../ui/TeamPicture.tsx';
import { ago } from '../ui/time.ts';

/** The address that tablets reach: the network's where there is one, else that of this page. */
const originFor = ({ addresses }: Doors): string =>
  ['localhost', '127.0.0.1', '[::1]'].includes(window.location.hostname)
    ? (addresses[0] ?? window.location.origin)
    : window.location.origin;

/** The card of a team, as it is printed: name, picture, QR code. */
function Card({ team, doors }: { team: TeamDoor; doors: Doors }) {
  const address = `${originFor(doors)}/card/${team.card}`;
  return (
    <article className="flex break-inside-avoid items-center gap-4 rounded-xl border border-edge bg-sheet p-4">
      <QrCode of={address} className="size-32 shrink-0" />
      <div className="min-w-0">
        <h3 className="text-2xl leading-tight font-bold">{team.name}</h3>
        <p className="text-ink-2">{doors.class}</p>
        <p className="mt-2 flex items-center gap-2 text-lg">
          <TeamPicture name={team.picture} size={30} /> {team.picture}
        </p>
      </div>
    </article>
  );
}

function TeamRow({ team, now, klass }: { team: TeamDoor; now: number; klass: string }) {
  const again = () => void queryClient.invalidateQueries({ queryKey: keys.doors(klass) });
  const renew = useChange(
    () => api('POST /teams/:id/cards', { id: team.id }),
    () => {
      again();
      toast(`${team.name} has a new card and picture; the old ones are void. Print it again.`);
    },
  );
  const out = useChange(() => api('DELETE /teams/:id/tablets', { id: team.id }), again);
  const one = useChange(
    (tablet: number) => api('DELETE /teams/:id/tablets/:tablet', { id: team.id, tablet }),
    again,
  );
  return (
    <li className="flex flex-wrap items-center gap-2 border-t border-line-soft py-2 first:border-t-0">
      <span className="flex w-40 items-center gap-2 text-lg font-bold">
        <TeamPicture name={team.picture} size={22} /> {team.name}
      </span>
      <span className="mr-auto text-ink-2">{team.picture}</span>
      {team.tablets.map((tablet) => (
        <span key={tablet.id} className="flex items-center gap-1 text-ink-2">
          <TabletSmartphone size={18} aria-hidden="true" /> seen {ago(tablet.seenAt, now)}
          {team.tablets.length > 1 ? (
            <Button
              aria-label={`Sign out the tablet of ${team.name} that was seen ${ago(tablet.seenAt, now)}`}
              onClick={() => one.mutate(tablet.id)}
            >
              Out
            </Button>
          ) : null}
        </span>
      ))}
      {team.tablets.length > 0 ? (
        <Button onClick={() => out.mutate(undefined)}>
          Sign out {countOf(team.tablets.length, 'tablet')}
        </Button>
      ) : (
        <span className="text-ink-2">no tablet signed in</span>
      )}
      <Button
        icon={RefreshCw}
        title={`${team.name}: a new card; the old one is void`}
        onClick={() => renew.mutate(undefined)}
      >
        Void the card
      </Button>
    </li>
  );
}

/** The ways into a class: its code, the cards of its teams, the link of its board. */
export default function DoorsPage() {
  const { id = '' } = useParams();
  const query = useDoors(id);
  const again = () => void query.refetch();
  const recode = useChange(() => api('POST /classes/:id/codes', { id }), again);
  const relink = useChange(() => api('POST /classes/:id/board-links', { id }), again);
  if (query.isPending) return <Loading what="the doors" />;
  if (query.isError) return <Failed error={query.error} again={again} />;
  const doors = query.data;
  const origin = originFor(doors);
  const board = `${origin}/board/${doors.board}`;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2 print:hidden">
        <BackLink to={`/classes/${id}`} title="Back to the class" />
        <h1 className="text-title font-bold">Doors of {doors.class}</h1>
        <span className="mr-auto text-ink-2">{doors.school}</span>
        <Button main icon={Printer} onClick={() => window.print()}>
          Print the cards
        </Button>
      </header>
      {doors.addresses.length === 0 && origin.includes('127.0.0.1') ? (
        <p className="border-l-4 border-l-brass bg-sheet px-4 py-2 font-semibold text-brass print:hidden">
          This Vigilum answers its own machine alone. For tablets start it with HOST=0.0.0.0, then print the
          cards.
        </p>
      ) : null}
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-2 print:hidden">
        <Panel title="Class code" aside="say it aloud, or leave it on the board">
          <p className="font-mono text-figure leading-none font-bold">{doors.code}</p>
          <p className="mt-3">
            Teams open <strong className="font-mono break-all">{origin}/door</strong>, type the code, choose
            their name and their picture. A card does it in one go.
          </p>
          <Button icon={RefreshCw} className="mt-3 w-fit" onClick={() => recode.mutate(undefined)}>
            Another code
          </Button>
        </Panel>
        <Panel title="Board for the projector" aside="shows the sheet, and nothing private">
          <div className="flex flex-wrap items-start gap-4">
            <QrCode of={board} className="size-28" />
            <div className="min-w-52 flex-1">
              <a className="flex min-h-11 items-center font-mono text-sm break-all underline" href={board}>
                {board}
              </a>
              <p className="mt-1 text-ink-2">{countOf(doors.boards, 'projector')} signed in</p>
              <Button icon={QrIcon} className="mt-2" onClick={() => relink.mutate(undefined)}>
                Another link
              </Button>
            </div>
          </div>
        </Panel>
      </div>
      <Panel title="Teams and their tablets" className="print:hidden">
        <ul>
          {doors.teams.map((team) => (
            <TeamRow key={team.id} team={team} now={doors.now} klass={id} />
          ))}
        </ul>
      </Panel>
      <section aria-label="Cards" className="flex flex-col gap-3">
        <h2 className="text-lg font-bold print:hidden">Cards</h2>
        <div className="grid grid-cols-1 gap-4 sm:grid-cols-2 print:grid-cols-2">
          {doors.teams.map((team) => (
            <Card key={team.id} team={team} doors={doors} />
          ))}
        </div>
      </section>
    </main>
  );
}
