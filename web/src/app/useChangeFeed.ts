import { onlineManager, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { listen } from '../data/feed.ts';
import { outbox } from '../saving/box.ts';
import { catchUp, hearOfScript } from '../script/registry.ts';
import { useVisible } from '../ui/useVisible.ts';

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
        onlineManager.setOnline(true);
        void outbox.back();
        // What others wrote while the line was silent.
        catchUp();
      },
      lost: () => {
        setHeard(false);
        // What is shown stays: nothing is asked until the server is heard again.
        onlineManager.setOnline(false);
      },
      changed: hearOfScript,
      missed: catchUp,
    });
  }, [client, visible]);
  return heard;
}
