import { KeyRound, LogOut, School, UserPlus } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { accountRoles, roleWords, type AccountRole } from '@vigilum/contract/roles';
import type { Account, AccountChange } from '@vigilum/contract/types';
import { countOf } from '@vigilum/core/quantity';
import { Labelled } from '../ui/fields.tsx';
import { Button, LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { useEnter, useMe } from '../data/me.ts';
import { queryClient, useAccounts, useChange, useStorage } from '../data/queries.ts';
import { whenOf } from '../hours/when.ts';
import { Panel } from '../ui/Panel.tsx';
import { QrCode } from '../ui/QrCode.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { Failed, Loading } from '../ui/states.tsx';
import { setTheme, useTheme } from '../ui/theme.ts';
import { ago } from '../ui/time.ts';
import { Refusal } from './Doorway.tsx';
import { SeenClasses } from './SeenClasses.tsx';

const again = () => void queryClient.invalidateQueries({ queryKey: keys.accounts });

/** The own password: the old one, the new one. */
function PasswordForm() {
  const [old, setOld] = useState('');
  const [password, setPassword] = useState('');
  const [says, setSays] = useState<string | null>(null);
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        setSays(null);
        api('PUT /me/password', { body: { old, password } }).then(
          () => {
            setOld('');
            setPassword('');
            toast.success('Your password is changed. Your other browsers are signed out.');
          },
          (error: unknown) => setSays(sentenceOf(error)),
        );
      }}
    >
      {(
        [
          ['the old password', old, setOld, 'current-password'],
          ['a new one of at least 10 characters', password, setPassword, 'new-password'],
        ] as const
      ).map(([word, value, set, complete]) => (
        <Labelled label={word} key={word}>
          <input
            type="password"
            className="input w-full max-w-80"
            autoComplete={complete}
            maxLength={200}
            value={value}
            onChange={(event) => set(event.target.value)}
          />
        </Labelled>
      ))}
      <Refusal says={says} />
      <Button className="w-fit" type="submit" disabled={password === ''}>
        Change the password
      </Button>
    </form>
  );
}

function Person({ account, now, own }: { account: Account; now: number; own: boolean }) {
  const [told, setTold] = useState<string | null>(null);
  const change = useChange(
    (body: AccountChange) => api('PATCH /accounts/:id', { id: account.id, body }),
    () => void again(),
  );
  const recover = useChange(
    () => api('POST /accounts/:id/recoveries', { id: account.id }),
    ({ password }) => {
      setTold(password);
      again();
    },
  );
  const back = useChange(
    () => api('POST /accounts/:id/restoration', { id: account.id }),
    () => void again(),
  );
  const remove = useChange(
    () => api('DELETE /accounts/:id', { id: account.id }),
    () => {
      again();
      toast(`${account.name} is removed and signed out.`, {
        action: { label: 'Undo', onClick: () => back.mutate(undefined) },
        duration: 10_000,
      });
    },
  );
  return (
    <li className="flex flex-wrap items-center gap-2 border-t border-line-soft py-2 first:border-t-0">
      <span className="mr-auto">
        <strong>{account.name}</strong>
        {own ? ' (you)' : ''}
        <span className="block text-ink-2">
          {account.seenAt === null ? 'never seen' : `seen ${ago(account.seenAt, now)}`},{' '}
          {countOf(account.sessions, 'browser')} signed in
        </span>
      </span>
      <select
        className="input h-11 w-44"
        aria-label={`role of ${account.name}`}
        value={account.role}
        onChange={(event) => change.mutate({ role: event.target.value as AccountRole })}
      >
        {accountRoles.map((role) => (
          <option key={role} value={role}>
            {roleWords[role].word}
          </option>
        ))}
      </select>
      {own ? null : (
        <>
          <Button
            icon={KeyRound}
            title={`Give ${account.name} a new password`}
            onClick={() => recover.mutate(undefined)}
          >
            New password
          </Button>
          <RemoveButton title={`Remove ${account.name}`} onClick={() => remove.mutate(undefined)} />
        </>
      )}
      {account.role === 'guest' ? (
        <SeenClasses
          whose={`classes that ${account.name} sees`}
          chosen={account.classes}
          change={(classes) => change.mutate({ classes })}
        />
      ) : null}
      {told === null ? null : (
        <p role="status" className="basis-full border-l-4 border-l-sea pl-3">
          Tell {account.name}: <code className="font-mono text-lg font-bold">{told}</code>. It is shown this
          once; signed-in browsers of {account.name} are out.
        </p>
      )}
    </li>
  );
}

function Invite() {
  const [role, setRole] = useState<AccountRole>('teacher');
  const [classes, setClasses] = useState<number[]>([]);
  const [link, setLink] = useState<string | null>(null);
  const invite = useChange(
    () => api('POST /invitations', { body: role === 'guest' ? { role, classes } : { role } }),
    ({ token }) => {
      setLink(`${window.location.origin}/invitations/${token}`);
      again();
    },
  );
  return (
    <div className="mt-3 flex flex-col gap-3 border-t border-line-soft pt-3">
      <div className="flex flex-wrap items-end gap-2">
        <Labelled label="invite a colleague as">
          <select
            className="input w-44"
            value={role}
            onChange={(event) => setRole(event.target.value as AccountRole)}
          >
            {accountRoles.map((one) => (
              <option key={one} value={one}>
                {roleWords[one].word}
              </option>
            ))}
          </select>
        </Labelled>
        <span className="basis-full text-ink-2">{roleWords[role].says}</span>
        {role === 'guest' ? (
          <SeenClasses whose="classes that they will see" chosen={classes} change={setClasses} />
        ) : null}
        <Button main icon={UserPlus} onClick={() => invite.mutate(undefined)}>
          Make a link
        </Button>
      </div>
      {link === null ? null : (
        <div role="status" className="flex flex-wrap items-start gap-4">
          <QrCode of={link} className="size-36" />
          <p className="min-w-60 flex-1">
            Give this link to one person. It works once, for two weeks, and is shown this once:
            <code className="mt-1 block font-mono text-sm break-all">{link}</code>
          </p>
        </div>
      )}
    </div>
  );
}

function People({ own }: { own: number | null }) {
  const query = useAccounts();
  const takeBack = useChange(
    (id: number) => api('DELETE /invitations/:id', { id }),
    () => void again(),
  );
  if (query.isPending) return <Loading what="who has an account" />;
  if (query.isError) return <Failed error={query.error} again={() => void query.refetch()} />;
  const { accounts, invitations, now } = query.data;
  return (
    <Panel title="People" aside={countOf(accounts.length, 'account')}>
      <ul>
        {accounts.map((account) => (
          <Person key={account.id} account={account} now={now} own={account.id === own} />
        ))}
      </ul>
      {invitations.length > 0 ? (
        <ul aria-label="Open invitations" className="border-t border-line-soft">
          {invitations.map(({ id, role, by, until }) => (
            <li key={id} className="flex flex-wrap items-center gap-2 py-1.5">
              <span className="mr-auto text-ink-2">
                invited as {roleWords[role].word} by {by}, until {whenOf(until)}
              </span>
              <Button onClick={() => takeBack.mutate(id)}>Take it back</Button>
            </li>
          ))}
        </ul>
      ) : null}
      <Invite />
    </Panel>
  );
}

/** The own account, and for owners who else has one. */
export default function AccountsPage() {
  const night = useTheme() === 'nightwatch';
  const me = useMe();
  const enter = useEnter();
  const leave = useChange(
    (where: 'here' | 'everywhere') =>
      where === 'here' ? api('DELETE /sessions/mine') : api('DELETE /sessions'),
    () => enter(null),
  );
  const isOwner = me.data?.role === 'owner';
  // Several schools share a database; a data folder holds one.
  const shared = useStorage(isOwner).data?.shared ?? false;
  if (!me.data) return <Loading what="who you are" />;
  const { role, name, account, demo, office, several } = me.data;
  return (
    <main className="flex flex-1 flex-col gap-3 px-6 py-3.5 max-sm:px-3">
      <header className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="text-title font-bold">{name}</h1>
        <span className="mr-auto text-ink-2">
          {role in roleWords ? roleWords[role as AccountRole].word : ''}
        </span>
        {role === 'owner' && office && shared ? (
          <LinkButton icon={School} to="/schools">
            {several ? 'Schools' : 'More schools'}
          </LinkButton>
        ) : null}
        {/* On a phone the rail has no room for it. */}
        <Button className="sm:hidden" onClick={() => setTheme(night ? 'daywatch' : 'nightwatch')}>
          {night ? 'Light theme' : 'Dark theme'}
        </Button>
        <Button icon={LogOut} onClick={() => leave.mutate('here')}>
          Sign out
        </Button>
        <Button onClick={() => leave.mutate('everywhere')}>Sign out everywhere</Button>
      </header>
      <div className="grid grid-cols-1 items-start gap-4 lg:grid-cols-[minmax(0,2fr)_minmax(0,1fr)]">
        {role === 'owner' ? <People own={account} /> : null}
        <Panel title="Password">
          {demo ? (
            <p className="mb-3 text-ink-2">
              The demo teacher has none until one is set: leave the old one empty the first time.
            </p>
          ) : null}
          <PasswordForm />
        </Panel>
      </div>
    </main>
  );
}
