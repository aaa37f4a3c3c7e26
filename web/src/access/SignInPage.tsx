import { Navigate, useNavigate, useSearchParams } from 'react-router';
import type { SignIn } from '@vigilum/contract/types';
import { LinkButton } from '../ui/Button.tsx';
import { api } from '../data/api.ts';
import { useEnter, useMe } from '../data/me.ts';
import { CredentialsForm } from './CredentialsForm.tsx';
import { Doorway } from './Doorway.tsx';

/** Where somebody wanted to go: a page of this very application, else Today. */
const wantedFrom = (to: string | null): string => (to !== null && /^\/(?![/\\])/.test(to) ? to : '/');

/** The school that was signed in to from this browser. */
const lastSchool = {
  get: (): string => {
    try {
      return localStorage.getItem('vigilum school') ?? '';
    } catch {
      return '';
    }
  },
  set: (slug: string): void => {
    try {
      localStorage.setItem('vigilum school', slug);
    } catch {
      // Storage is refused: it is typed again next time.
    }
  },
};

/** Signing in with an account. Where nobody has one yet, the first is made. */
export default function SignInPage() {
  const me = useMe();
  const enter = useEnter();
  const navigate = useNavigate();
  const [search] = useSearchParams();
  if (me.data?.first) return <Navigate to="/first-account" replace />;
  // Where there are several schools, the one of the link, or the one of last time.
  const school = me.data?.several ? (search.get('school') ?? lastSchool.get()) : undefined;
  const send = async (body: SignIn) => {
    enter(await api('POST /sessions', { body }));
    if (body.school) lastSchool.set(body.school);
    void navigate(wantedFrom(search.get('to')), { replace: true });
  };
  return (
    <Doorway
      title="Sign in"
      school={me.data?.school ?? ''}
      below={
        <>
          <LinkButton to="/door">We are a team: enter our class code</LinkButton>
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
      {/* Whether it asks for the school has to be known first. */}
      {me.isPending ? null : <CredentialsForm word="Sign in" school={school} send={send} />}
    </Doorway>
  );
}
