import { useQuery } from '@tanstack/react-query';
import { useNavigate, useParams } from 'react-router';
import { roleWords } from '@vigilum/contract/roles';
import type { Credentials } from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { useEnter } from '../data/me.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { Loading } from '../ui/states.tsx';
import { CredentialsForm } from './CredentialsForm.tsx';
import { Doorway, Refusal } from './Doorway.tsx';

/** A colleague takes up an invitation. */
export default function InvitationPage() {
  const { token = '' } = useParams();
  const enter = useEnter();
  const navigate = useNavigate();
  const invitation = useQuery({
    queryKey: ['invitation', token],
    queryFn: () => api('GET /invitations/:token', { token }),
    retry: false,
  });
  if (invitation.isPending) return <Loading what="the invitation" />;
  if (invitation.isError)
    return (
      <Doorway title="Invitation">
        <Refusal says={sentenceOf(invitation.error)} />
      </Doorway>
    );
  const { role, by, school } = invitation.data;
  const send = async (body: Credentials) => {
    enter(await api('POST /invitations/:token/acceptance', { token, body }));
    void navigate('/', { replace: true });
  };
  return (
    <Doorway title="Make your account" school={school}>
      <p className="mb-4">
        {by} invites you as {roleWords[role].word}. {roleWords[role].says}
      </p>
      <CredentialsForm word="Make my account" isNew send={send} />
    </Doorway>
  );
}
