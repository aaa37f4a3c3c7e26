import { Link2, SlidersHorizontal } from 'lucide-react';
import { useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { limited, type Limited } from '@vigilum/contract/roles';
import type { OwnerLink, SchoolEntry } from '@vigilum/contract/types';
import { countOf } from '@vigilum/core/quantity';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { queryClient, useChange } from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Panel } from '../ui/Panel.tsx';
import { QrCode } from '../ui/QrCode.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { TableHead } from '../ui/TableHead.tsx';
import { ago } from '../ui/time.ts';
import { LimitsDialog } from './LimitsDialog.tsx';
import { NewSchool } from './NewSchool.tsx';

const again = () => void queryClient.invalidateQueries({ queryKey: keys.schools });

/** What an owner is sent to begin with: shown once. */
export interface Told extends OwnerLink {
  name: string;
  slug: string;
}

function OwnersLink({ name, slug, token, until }: Told) {
  const link = `${window.location.origin}/invitations/${token}`;
  return (
    <div role="status" className="flex flex-wrap items-start gap-4">
      <QrCode of={link} className="size-36" />
      <p className="min-w-60 flex-1">
        Give this link to the first owner of <strong>{name}</strong>. It works once, until {whenOf(until)},
        and is shown this once:
        <code className="mt-1 block font-mono text-sm break-all">{link}</code>
        <span className="mt-2 block">
          From then on its people sign in with their school’s short name,{' '}
          <code className="font-mono font-bold">{slug}</code>.
        </span>
      </p>
    </div>
  );
}

const share = (has: number, most: number | undefined) =>
  most === undefined ? String(has) : `${has} of ${most}`;

function Row({
  school,
  now,
  tell,
  limit,
}: {
  school: SchoolEntry;
  now: number;
  tell: (told: Told) => void;
  limit: () => void;
}) {
  const { id, name, slug, office, has, most, seenAt, invitedUntil, removed } = school;
  const invite = useChange(
    () => api('POST /schools/:id/invitations', { id }),
    (link) => {
      tell({ ...link, name, slug });
      again();
    },
  );
  const back = useChange(
    () => api('POST /schools/:id/restoration', { id }),
    () => again(),
  );
  const close = useChange(
    () => api('DELETE /schools/:id', { id }),
    () => {
      again();
      toast(`${name} is closed; everybody of it is signed out. Nothing of it is deleted.`, {
        action: { label: 'Undo', onClick: () => back.mutate(undefined) },
        duration: 10_000,
      });
    },
  );
  const over = (what: Limited) => most[what] !== undefined && has[what] >= most[what];
  return (
    <tr className="border-t border-line-soft align-top">
      <th scope="row" className="py-2 pr-3 text-left font-semibold">
        {name}
        <span className="block font-mono font-normal text-ink-2">{slug}</span>
      </th>
      {limited.map((what) => (
        <td key={what} className={`py-2 pr-3 text-right font-mono ${over(what) ? 'font-bold' : ''}`}>
          {share(has[what], most[what])}
          {over(what) ? <span className="block font-sans text-fault">full</span> : null}
        </td>
      ))}
      <td className="py-2 pr-3 text-ink-2">
        {removed
          ? 'closed'
          : seenAt !== null
            ? ago(seenAt, now)
            : invitedUntil !== null
              ? `invited until ${whenOf(invitedUntil)}`
              : 'never'}
      </td>
      <td className="py-1.5">
        <span className="flex flex-wrap justify-end gap-2">
          {office ? <span className="py-2 text-ink-2">looks after all</span> : null}
          {removed ? (
            <button type="button" className="btn btn-plain" onClick={() => back.mutate(undefined)}>
              Open it again
            </button>
          ) : (
            <>
              {office ? null : (
                <button
                  type="button"
                  className="btn btn-plain"
                  title={`Make a link by which somebody becomes an owner of ${name}`}
                  onClick={() => invite.mutate(undefined)}
                >
                  <Link2 size={18} aria-hidden="true" /> Owner’s link
                </button>
              )}
              <button
                type="button"
                className="btn btn-plain"
                title={`Limit how much ${name} may have`}
                onClick={limit}
              >
                <SlidersHorizontal size={18} aria-hidden="true" /> Limits
              </button>
              {office ? null : (
                <RemoveButton
                  title={`Close ${name}: nobody of it can sign in`}
                  onClick={() => close.mutate(undefined)}
                />
              )}
            </>
          )}
        </span>
      </td>
    </tr>
  );
}

/** The office of several schools: which there are, how much each holds, and a new one. What a school does is its own affair. */
export default function SchoolsPage() {
  const query = useQuery({ queryKey: keys.schools, queryFn: () => api('GET /schools') });
  const [told, setTold] = useState<Told | null>(null);
  const [limiting, setLimiting] = useState<SchoolEntry | null>(null);
  if (query.isPending) return <Loading what="the schools" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { schools, now } = query.data;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <BackLink to="/account" title="Back to the account" />
        <h1 className="mr-auto text-title font-bold">Schools</h1>
      </header>
      <div className="grid grid-cols-1 items-start gap-4 xl:grid-cols-[minmax(0,2.4fr)_minmax(0,1fr)]">
        <Panel
          title="Schools in this database"
          aside={`${countOf(schools.length, 'school')}; none sees anything of another`}
        >
          <div className="overflow-x-auto">
            <table className="w-full">
              <TableHead columns={['school', '|accounts', '|classes', '|robots', 'last seen', '']} />
              <tbody>
                {schools.map((school) => (
                  <Row
                    key={school.id}
                    school={school}
                    now={now}
                    tell={setTold}
                    limit={() => setLimiting(school)}
                  />
                ))}
              </tbody>
            </table>
          </div>
        </Panel>
        <Panel title="A new school">
          {told ? (
            <>
              <OwnersLink {...told} />
              <button type="button" className="btn btn-plain mt-3 w-fit" onClick={() => setTold(null)}>
                Done
              </button>
            </>
          ) : (
            <NewSchool
              made={(made) => {
                setTold(made);
                again();
              }}
            />
          )}
        </Panel>
      </div>
      {limiting ? (
        <LimitsDialog
          school={limiting}
          close={() => setLimiting(null)}
          saved={() => {
            again();
            setLimiting(null);
          }}
        />
      ) : null}
    </main>
  );
}
