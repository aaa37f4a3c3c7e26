import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import type { Reading } from '@vigilum/core/sensing';

/** Asks again for what other pages changed. Returns whether the server is being heard. */
export function useChangeFeed(): boolean {
  const client = useQueryClient();
  const [heard, setHeard] = useState(true);
  useEffect(() => {
    const source = new EventSource('/api/events');
    let lost = false;
    source.onopen = () => {
      setHeard(true);
      if (lost) void client.invalidateQueries();
      lost = false;
    };
    source.onerror = () => {
      lost = true;
      setHeard(false);
    };
    source.addEventListener('changed', () => void client.invalidateQueries());
    return () => source.close();
  }, [client]);
  return heard;
}

export interface LiveReadings {
  state: 'connecting' | 'live' | 'gone';
  /** The latest look; undefined before the first. */
  latest: Reading | undefined;
  /** The last looks, oldest first. */
  recent: Reading[];
}

const KEPT = 120;

/** Listens to one socket of a robot. `onReading` hears every look; `epoch` starts the listening anew. */
export function useLiveReadings(
  robotId: number,
  socket: string,
  epoch: unknown,
  onReading?: (value: Reading) => void,
): LiveReadings {
  const [live, setLive] = useState<LiveReadings>({ state: 'connecting', latest: undefined, recent: [] });
  const hear = useRef(onReading);
  useEffect(() => {
    hear.current = onReading;
  });
  useEffect(() => {
    const source = new EventSource(`/api/robots/${robotId}/live?socket=${encodeURIComponent(socket)}`);
    source.addEventListener('reading', (event) => {
      const { value } = JSON.parse((event as MessageEvent<string>).data) as { value: Reading };
      hear.current?.(value);
      setLive((was) => ({ state: 'live', latest: value, recent: [...was.recent.slice(1 - KEPT), value] }));
    });
    source.onerror = () => setLive((was) => ({ ...was, state: 'gone' }));
    return () => {
      source.close();
      setLive({ state: 'connecting', latest: undefined, recent: [] });
    };
  }, [robotId, socket, epoch]);
  return live;
}
