import { Link2, SlidersHorizontal } from 'lucide-react';
import { useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import { limited, type Limited } from '@vigilum/contract/roles';
import type { OwnerLink, SchoolEntry } from '@vigilum/contract/types';
import { Labelled } from '../ui/fields.tsx';
import { Button } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { queryClient, useChange } from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { BackLink } from '../ui/BackLink.tsx';
import { Panel } from '../ui/Panel.tsx';
import { QrCode } from '../ui/QrCode.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { Failed, Loading } from '../ui/states.tsx';
import { ago } from '../ui/time.ts';
import { SchoolDialog } from './SchoolDialog.tsx';
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
        Give this link to whoever is to be an owner of <strong>{name}</strong>. It works once, until{' '}
        {whenOf(until)}, and is shown this once:
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
const one: Record<Limited, string> = { accounts: 'account', classes: 'class', robots: 'robot' };

function Row({
  school,
  now,
  tell,
  change,
}: {
  school: SchoolEntry;
  now: number;
  tell: (told: Told) => void;
  change: () => void;
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
    <li className="flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-line-soft py-2 first:border-t-0">
      <span className="min-w-60 flex-1">
        <strong>{name}</strong>
        <span className="block text-ink-2">
          <code className="font-mono">{slug}</code>
          {office ? ', looks after all' : ''}
          {removed ? ', closed' : ''}
        </span>
      </span>
      <span className="flex flex-wrap gap-x-5">
        {limited.map((what) => (
          <span key={what} className="min-w-20 text-right">
            <span className="font-mono font-bold">{share(has[what], most[what])}</span>{' '}
            <span className="text-ink-2">{(most[what] ?? has[what]) === 1 ? one[what] : what}</span>
            {over(what) ? <span className="block text-fault">full</span> : null}
          </span>
        ))}
      </span>
      <span className="w-36 text-ink-2">
        {seenAt !== null
          ? `seen ${ago(seenAt, now)}`
          : invitedUntil !== null
            ? 'owner invited'
            : 'never seen'}
      </span>
      <span className="flex w-72 justify-end gap-2 max-sm:w-full max-sm:justify-start">
        {removed ? (
          <Button onClick={() => back.mutate(undefined)}>Open it again</Button>
        ) : (
          <>
            {office ? null : (
              <Button
                icon={Link2}
                title={`Make a link by which somebody becomes an owner of ${name}`}
                onClick={() => invite.mutate(undefined)}
              >
                Owner’s link
              </Button>
            )}
            <Button icon={SlidersHorizontal} title={`Name and limits of ${name}`} onClick={change}>
              Change
            </Button>
            {office ? (
              // Where the others have their bin.
              <span className="w-11" />
            ) : (
              <RemoveButton
                title={`Close ${name}: nobody of it can sign in`}
                onClick={() => close.mutate(undefined)}
              />
            )}
          </>
        )}
      </span>
    </li>
  );
}

/** A list that is longer can be searched. */
const LONG = 8;

/** The office of several schools: which there are, how much each holds, and a new one. What a school does is its own affair. */
export default function SchoolsPage() {
  const query = useQuery({ queryKey: keys.schools, queryFn: () => api('GET /schools') });
  const [told, setTold] = useState<Told | null>(null);
  const [changed, setChanged] = useState<SchoolEntry | null>(null);
  const [sought, setSought] = useState('');
  if (query.isPending) return <Loading what="the schools" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { schools, now } = query.data;
  const word = sought.trim().toLowerCase();
  const shown = schools.filter(({ name, slug }) => `${name} ${slug}`.toLowerCase().includes(word));
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <BackLink to="/account" title="Back to the account" />
        <h1 className="mr-auto text-title font-bold">Schools</h1>
      </header>
      <div className="grid grid-cols-1 items-start gap-4 2xl:grid-cols-[minmax(0,3fr)_minmax(0,1fr)]">
        <Panel
          title="Schools in this database"
          aside={schools.length === 1 ? 'so far one' : `${schools.length}; none sees anything of another`}
        >
          {schools.length > LONG ? (
            <Labelled label="find a school by its name" className="mb-2">
              <input
                type="search"
                className="input w-full max-w-96"
                value={sought}
                onChange={(event) => setSought(event.target.value)}
              />
            </Labelled>
          ) : null}
          <ul>
            {shown.map((school) => (
              <Row
                key={school.id}
                school={school}
                now={now}
                tell={setTold}
                change={() => setChanged(school)}
              />
            ))}
          </ul>
          {shown.length === 0 ? <p className="text-ink-2">No school is called like that.</p> : null}
        </Panel>
        <Panel title={told ? 'A link for its owner' : 'A new school'}>
          {told ? (
            <>
              <OwnersLink {...told} />
              <Button className="mt-3 w-fit" onClick={() => setTold(null)}>
                Done
              </Button>
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
      {changed ? (
        <SchoolDialog
          school={changed}
          close={() => setChanged(null)}
          saved={() => {
            again();
            setChanged(null);
          }}
        />
      ) : null}
    </main>
  );
}
