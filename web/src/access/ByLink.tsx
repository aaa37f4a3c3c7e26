import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { isAccount } from '@vigilum/contract/roles';
import type { Me } from '@vigilum/contract/types';
import { Button } from '../ui/Button.tsx';
import { useEnter, useMe } from '../data/me.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { Loading } from '../ui/states.tsx';
import { Doorway, Refusal } from './Doorway.tsx';

/** Coming in by a printed link. A browser that somebody is signed in at is asked first: it would be signed out. */
export function ByLink({
  what,
  open,
  goes,
}: {
  /** What the browser becomes: "the tablet of a team". */
  what: string;
  open: () => Promise<Me>;
  goes: (me: Me) => string;
}) {
  const me = useMe();
  const enter = useEnter();
  const navigate = useNavigate();
  const [says, setSays] = useState<string | null>(null);
  const begun = useRef(false);
  const go = () => {
    if (begun.current) return;
    begun.current = true;
    open().then(
      (mine) => {
        enter(mine);
        void navigate(goes(mine), { replace: true });
      },
      (error: unknown) => {
        begun.current = false;
        setSays(sentenceOf(error));
      },
    );
  };
  const asks = me.data !== undefined && isAccount(me.data.role);
  const ready = me.data !== undefined && !asks;
  useEffect(() => {
    if (ready) go();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when it is known who is here
  }, [ready]);
  if (says !== null)
    return (
      <Doorway title="This did not open">
        <Refusal says={says} />
      </Doorway>
    );
  if (!asks) return <Loading what="the way in" />;
  return (
    <Doorway title={`Make this browser ${what}?`} school={me.data.school}>
      <p className="mb-4">
        {me.data.name} is signed in here and would be signed out in this browser. To look at both, open the
        link in a private window or on another device.
      </p>
      <span className="flex flex-wrap gap-2">
        <Button main onClick={go}>
          Yes, make it {what}
        </Button>
        <Button onClick={() => void navigate('/')}>No, back to Today</Button>
      </span>
    </Doorway>
  );
}
