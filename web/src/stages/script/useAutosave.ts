import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { ApiProblem, post } from '../../data/api.ts';
import { sentenceOf } from '../../data/queries.ts';

export type Saving =
  | { state: 'saved' | 'typing' | 'saving' }
  | { state: 'failed'; says: string }
  | { state: 'conflict'; version: number; text: string };

/** How long typing must rest before a version is saved, ms. */
const REST_MS = 1500;

/** Saves the script a moment after typing stops; every save is a version, with who saved it. */
export function useAutosave(api: string, first: { version: number; text: string }, by: string) {
  const client = useQueryClient();
  const [saving, setSaving] = useState<Saving>({ state: 'saved' });
  const version = useRef(first.version);
  const savedText = useRef(first.text);
  const text = useRef(first.text);
  const restored = useRef<number | null>(null);
  const who = useRef(by);
  useEffect(() => {
    who.current = by;
  }, [by]);
  const running = useRef<Promise<void> | null>(null);
  const timer = useRef<number>(undefined);

  const save = useCallback(async (): Promise<void> => {
    window.clearTimeout(timer.current);
    if (running.current) await running.current;
    if (text.current === savedText.current) return;
    const sending = text.current;
    const restoredFrom = restored.current;
    setSaving({ state: 'saving' });
    running.current = (async () => {
      try {
        const answer = await post<{ version: number }>(`${api}/script-versions`, {
          text: sending,
          basedOn: version.current,
          by: who.current,
          ...(restoredFrom === null ? {} : { restoredFrom }),
        });
        version.current = answer.version;
        savedText.current = sending;
        restored.current = null;
        setSaving({ state: text.current === sending ? 'saved' : 'typing' });
        void client.invalidateQueries();
      } catch (error) {
        if (error instanceof ApiProblem && error.status === 409) {
          const newest = error.body.newest as { version: number; text: string };
          setSaving({ state: 'conflict', ...newest });
        } else setSaving({ state: 'failed', says: sentenceOf(error) });
      } finally {
        running.current = null;
      }
    })();
    await running.current;
  }, [api, client]);

  const change = (now: string) => {
    text.current = now;
    restored.current = null;
    if (now === savedText.current) {
      setSaving((was) => (was.state === 'typing' ? { state: 'saved' } : was));
      window.clearTimeout(timer.current);
      return;
    }
    setSaving((was) => (was.state === 'conflict' ? was : { state: 'typing' }));
    window.clearTimeout(timer.current);
    timer.current = window.setTimeout(() => void save(), REST_MS);
  };
  /** Says that the text now in hand came from an older version, and saves it as a new one. */
  const restore = (from: number) => {
    restored.current = from;
    void save();
  };
  /** After a conflict: goes on from the other version, with one of the two texts. */
  const settle = (newest: { version: number; text: string }, keep: string) => {
    version.current = newest.version;
    savedText.current = newest.text;
    text.current = keep;
    setSaving({ state: keep === newest.text ? 'saved' : 'typing' });
    void save();
  };
  useEffect(() => {
    const leave = () => void save();
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [save]);
  return { saving, change, save, settle, restore };
}
