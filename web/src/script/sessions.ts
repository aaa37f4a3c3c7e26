import type { ScriptDocument } from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { PAGE, token } from '../data/page.ts';
import { putScript } from '../data/patches.ts';
import { queryClient } from '../data/queries.ts';
import { outbox, shelf } from '../saving/box.ts';
import { openScripts, scriptKey, type ScriptId } from './registry.ts';
import { writerName } from './writer.ts';
import { ScriptSession, type KeptScript } from './session.ts';

interface ShelvedScript extends KeptScript {
  is: 'script';
  id: ScriptId;
}

const sessions = new Map<string, ScriptSession>();

/** A script that this page has open, or of which something is not stored yet. */
export const sessionOf = (id: ScriptId): ScriptSession | undefined => sessions.get(scriptKey(id));

/** Opens a script, or goes on with what is open. */
export function openScript(
  id: ScriptId,
  document: ScriptDocument,
  kept: KeptScript | null = null,
): ScriptSession {
  const key = scriptKey(id);
  const known = sessions.get(key);
  if (known) return known;
  const { team, lesson: slug } = id;
  const path = { id: team, slug };
  const session = new ScriptSession(
    key,
    document,
    {
      push: (body) => api('POST /teams/:id/lessons/:slug/script-updates', { ...path, body }),
      pull: (from) =>
        api('GET /teams/:id/lessons/:slug/script-updates', { ...path, query: { from: String(from) } }),
      token,
      now: () => Date.now(),
      setTimer: (work, ms) => window.setTimeout(work, ms),
      clearTimer: (timer) => window.clearTimeout(timer),
      keep: (record) =>
        void shelf.put(`${PAGE} ${key}`, { is: 'script', id, ...record } satisfies ShelvedScript),
      forget: () => void shelf.drop(`${PAGE} ${key}`),
      changed: (answered) => outbox.changedOther(answered),
      settled: (saved) => putScript(queryClient, team, slug, saved),
      writer: writerName,
    },
    kept,
  );
  sessions.set(key, session);
  openScripts.set(key, session);
  outbox.register(session);
  return session;
}

/** Takes up a script that an earlier life of this page left behind. */
export function reviveScript(record: unknown): void {
  const { id, ...kept } = record as ShelvedScript;
  if (sessions.has(scriptKey(id))) return;
  openScript(id, { revision: kept.revision, text: kept.base, saved: kept.saved }, kept);
}
