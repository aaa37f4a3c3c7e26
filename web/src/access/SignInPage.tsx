import { Link, Navigate, useNavigate, useSearchParams } from 'react-router';
import type { Credentials } from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { useEnter, useMe } from '../data/me.ts';
import { CredentialsForm } from './CredentialsForm.tsx';
import { Doorway } from './Doorway.tsx';

/** Where somebody wanted to go: a page of this very application, else Today. */
const wantedFrom = (to: string | null): string => (to !== null && /^\/(?![/\\])/.test(to) ? to : '/');

/** Signing in with an account. Where nobody has one yet, the first is made. */
export default function SignInPage() {
  const me = useMe();
  const enter = useEnter();
  const navigate = useNavigate();
  const [search] = useSearchParams();
  if (me.data?.first) return <Navigate to="/first-account" replace />;
  const send = async (body: Credentials) => {
    enter(await api('POST /sessions', { body }));
    void navigate(wantedFrom(search.get('to')), { replace: true });
  };
  return (
    <Doorway
      title="Sign in"
      school={me.data?.school ?? ''}
      below={
        <>
          <Link to="/door" className="btn btn-plain">
            We are a team: enter our class code
          </Link>
          {me.data?.demo ? (
            <p className="basis-full text-center text-ink-2">
              This is the demo. On the machine where it runs it signs in by itself; over the network the
              password stands where it was started.
            </p>
          ) : (
            <p className="basis-full text-center text-ink-2">
              Forgotten the password? An owner can give you a new one, and so can whoever runs the server:{' '}
              <code className="font-mono">npm run account</code>
            </p>
          )}
        </>
      }
    >
      <CredentialsForm word="Sign in" send={send} />
    </Doorway>
  );
}
