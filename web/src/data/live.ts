import { useEffect, useRef, useState } from 'react';
import type { LiveSample } from '@vigilum/contract/types';
import type { Reading, Rgb } from '@vigilum/core/sensing';
import { useVisible } from '../ui/useVisible.ts';

export interface LiveReadings {
  state: 'connecting' | 'live' | 'gone';
  /** The latest look; undefined before the first. */
  latest: Reading | undefined;
  /** The last looks, oldest first. */
  recent: Reading[];
  /** The latest look of an rgb sensor. */
  rgb?: Rgb;
}

/** Enough for five seconds of the fastest sensors. */
const KEPT = 600;
const NONE: LiveReadings = { state: 'connecting', latest: undefined, recent: [] };

/** Opens the live bench of a robot: every look to `hear`, and whether it is there. */
function useBenchStream(
  robotId: number,
  socket: string | null,
  epoch: unknown,
  hear: (samples: LiveSample[]) => void,
  lost: () => void,
): void {
  const visible = useVisible();
  const latest = useRef({ hear, lost });
  useEffect(() => {
    latest.current = { hear, lost };
  });
  useEffect(() => {
    if (!visible) return;
    const which = socket === null ? '' : `?socket=${encodeURIComponent(socket)}`;
    const source = new EventSource(`/api/robots/${robotId}/live${which}`);
    source.addEventListener('readings', (event) =>
      latest.current.hear(JSON.parse((event as MessageEvent<string>).data) as LiveSample[]),
    );
    source.onerror = () => latest.current.lost();
    // Another page of this browser has taken its place.
    source.addEventListener('crowded', () => {
      source.close();
      latest.current.lost();
    });
    return () => source.close();
  }, [robotId, socket, epoch, visible]);
}

/** Listens to one socket of a robot. `onReading` hears every look; `epoch` starts the listening anew. */
export function useLiveReadings(
  robotId: number,
  socket: string,
  epoch: unknown,
  onReading?: (look: LiveSample) => void,
): LiveReadings {
  const [live, setLive] = useState<LiveReadings>(NONE);
  useBenchStream(
    robotId,
    socket,
    epoch,
    (looks) => {
      looks.forEach((look) => onReading?.(look));
      const last = looks.at(-1)!;
      setLive((was) => ({
        state: 'live',
        latest: last.value,
        rgb: last.rgb,
        recent: [...was.recent, ...looks.map((look) => look.value)].slice(-KEPT),
      }));
    },
    () => setLive((was) => ({ ...was, state: 'gone' })),
  );
  useEffect(() => () => setLive(NONE), [robotId, socket, epoch]);
  return live;
}

/** Listens to every socket of a robot at once. */
export function useBench(
  robotId: number,
  epoch: unknown,
): { gone: boolean; sockets: Record<string, LiveReadings> } {
  const [bench, setBench] = useState<{ gone: boolean; sockets: Record<string, LiveReadings> }>({
    gone: false,
    sockets: {},
  });
  useBenchStream(
    robotId,
    null,
    epoch,
    (looks) =>
      setBench((was) => {
        const sockets = { ...was.sockets };
        for (const { socket, value, rgb } of looks) {
          const before = sockets[socket] ?? NONE;
          sockets[socket] = {
            state: 'live',
            latest: value,
            rgb,
            recent: [...before.recent.slice(1 - KEPT), value],
          };
        }
        return { gone: false, sockets };
      }),
    () => setBench((was) => ({ ...was, gone: true })),
  );
  return bench;
}
