import { Square } from 'lucide-react';
import { Button } from '../ui/Button.tsx';
import type { Burst } from './useBurst.ts';

/** Starts a recording, and ends it keeping what there is. */
export function RecordButton({
  burst,
  busy,
  start,
  toggle,
}: {
  burst: Burst;
  busy: boolean;
  /** What the button says before a recording. */
  start: string;
  toggle: () => void;
}) {
  return (
    <Button main disabled={burst.live.state !== 'live' || busy} onClick={toggle}>
      {burst.taking ? (
        <>
          <Square size={16} aria-hidden="true" /> Stop and keep it
        </>
      ) : (
        start
      )}{' '}
      <kbd className="kbd">Space</kbd>
    </Button>
  );
}
