import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import { sentenceOf } from './sentenceOf.ts';

/**
 * Work that goes on in workers, one turn at a time: a new turn, cancelling, or leaving the page ends the one before.
 * `work` asks `mine` after every wait and stops when it is not; what goes wrong is told in one sentence.
 */
export function useLongWork() {
  const [going, setGoing] = useState(false);
  const turn = useRef(0);
  useEffect(() => () => void turn.current++, []);
  /** Resolves to whether the work came to its end in its own turn. */
  const run = async (work: (mine: () => boolean) => Promise<void>): Promise<boolean> => {
    const own = ++turn.current;
    const mine = () => turn.current === own;
    setGoing(true);
    try {
      await work(mine);
      return mine();
    } catch (error) {
      toast.error(sentenceOf(error));
      return false;
    } finally {
      if (mine()) setGoing(false);
    }
  };
  const cancel = () => {
    turn.current++;
    setGoing(false);
  };
  return { going, run, cancel };
}
