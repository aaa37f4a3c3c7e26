import { useParams } from 'react-router';
import { api } from '../data/api.ts';
import { ByLink } from './ByLink.tsx';

/** The projector's link. */
export default function BoardDoorPage() {
  const { token = '' } = useParams();
  return (
    <ByLink
      what="a board"
      open={() => api('POST /doors/boards', { body: { board: token } })}
      goes={() => '/board'}
    />
  );
}
