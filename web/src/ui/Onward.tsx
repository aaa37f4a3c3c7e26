import { Navigate } from 'react-router';
import { Loading } from './states.tsx';

/** Leads on to another page, and says what is coming until that one's code is here. */
export function Onward({ to, what }: { to: string; what: string }) {
  return (
    <>
      <Loading what={what} />
      <Navigate to={to} replace />
    </>
  );
}
