import { Navigate, useNavigate } from 'react-router';
import type { Credentials } from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { useEnter, useMe } from '../data/me.ts';
import { CredentialsForm } from './CredentialsForm.tsx';
import { Doorway } from './Doorway.tsx';

/** The address that is printed at the start carries the code behind #, which no log of a proxy sees. */
const codeInAddress = (): string => decodeURIComponent(location.hash.slice(1)).slice(0, 80);

/** The very first start: whoever has the printed code makes the first account, which owns the school. */
export default function FirstAccountPage() {
  const me = useMe();
  const enter = useEnter();
  const navigate = useNavigate();
  if (me.data && !me.data.first) return <Navigate to="/" replace />;
  const send = async ({ code = '', ...credentials }: Credentials & { code?: string }) => {
    enter(await api('POST /first-account', { body: { ...credentials, code } }));
    void navigate('/', { replace: true });
  };
  return (
    <Doorway title="Make the first account">
      <p className="mb-4">
        It is yours, and it owns this Vigilum: it invites colleagues and keeps the backups. Students never
        need one; teams come in by their class code or a card.
      </p>
      <CredentialsForm word="Make my account" isNew code={codeInAddress()} send={send} />
    </Doorway>
  );
}
