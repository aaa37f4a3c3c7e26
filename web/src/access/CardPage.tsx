import { useParams } from 'react-router';
import { api } from '../data/api.ts';
import { ByLink } from './ByLink.tsx';

/** What the QR code on a team's card opens. */
export default function CardPage() {
  const { card = '' } = useParams();
  return (
    <ByLink
      what="the tablet of a team"
      open={() => api('POST /doors/cards', { body: { card } })}
      goes={(me) => `/teams/${me.team?.id ?? ''}`}
    />
  );
}
