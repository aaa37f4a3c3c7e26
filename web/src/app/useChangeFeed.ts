import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { Change } from '@vigilum/contract/types';
import { listen } from '../data/feed.ts';
import { outbox } from '../saving/box.ts';
import { useVisible } from '../ui/useVisible.ts';

/** Scripts come with their editor: a page that has none open has nothing to hear of them. */
const ofScripts = (change: Change) =>
  change.what === 'evidence' && (change.part === 'script' || change.part === 'version');

/** Hears what other pages change, and sends what waits when the server is back. Returns whether the server is being heard. */
export function useChangeFeed(): boolean {
  const client = useQueryClient();
  const [heard, setHeard] = useState(true);
  const visible = useVisible();
  const after = useRef<{ revision: number | null }>({ revision: null });
  useEffect(() => {
    if (!visible) return;
    return listen(client, after.current, {
      opened: () => {
        setHeard(true);
        void outbox.back();
      },
      lost: () => setHeard(false),
      changed: (change) => {
        if (ofScripts(change))
          void import('../script/sessions.ts').then(({ hearOfScript }) => hearOfScript(change));
      },
      missed: () => void import('../script/sessions.ts').then(({ catchUp }) => catchUp()),
    });
  }, [client, visible]);
  return heard;
}
