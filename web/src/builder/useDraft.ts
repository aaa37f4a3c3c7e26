import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Proof } from '@vigilum/core/expect';
import type { Lesson, ModelState } from '@vigilum/core/lesson';
import type { Kit } from '@vigilum/core/sensing';
import { ApiProblem, call, get, post } from '../data/api.ts';
import { sentenceOf } from '../data/queries.ts';
import { useHistory } from '../ui/useHistory.ts';

/** A lesson as the server keeps it for its teacher. */
export interface Draft {
  lesson: Lesson;
  revision: number;
  changed: boolean;
  shipped: boolean;
  removed: boolean;
  model: ModelState;
  modelProof: Proof | null;
  kits: Kit[];
}

export type DraftSaving =
  | { state: 'saved' | 'typing' | 'saving' }
  | { state: 'failed'; says: string; fields: { field: string; says: string }[] }
  | { state: 'conflict'; revision: number; lesson: Lesson };

const REST_MS = 1200;
/** Changes of one field that follow each other this closely are undone together, ms. */
const TOGETHER_MS = 1500;

const full = (lines: readonly string[]) => lines.filter((line) => line.trim() !== '');
/** The lesson without lines that were added and not yet written. */
const tidy = (lesson: Lesson): Lesson => ({
  ...lesson,
  cautions: full(lesson.cautions),
  ...(lesson.skills ? { skills: full(lesson.skills) } : {}),
  ...(lesson.steps
    ? {
        steps: lesson.steps.map((step) => ({
          ...step,
          hints: full(step.hints),
          cautions: full(step.cautions),
        })),
      }
    : {}),
});

export const useDraftQuery = (slug: string) =>
  useQuery({
    queryKey: ['lesson', slug, 'draft'],
    queryFn: () => get<Draft>(`/lessons/${encodeURIComponent(slug)}/draft`),
    staleTime: 0,
    // A lesson in work is always asked for anew: what was kept may be older than the last save.
    gcTime: 0,
  });

/** A lesson in work: undo and redo, saved a moment after the last change, its model answer judged after each save. */
export function useDraft(first: Draft) {
  const client = useQueryClient();
  const history = useHistory<Lesson>(first.lesson);
  const { now: lesson } = history;
  const [saving, setSaving] = useState<DraftSaving>({ state: 'saved' });
  const [model, setModel] = useState({ state: first.model, proof: first.modelProof, busy: false, says: '' });
  const revision = useRef(first.revision);
  const saved = useRef(first.lesson);
  const newest = useRef(first.lesson);
  const last = useRef({ field: '', at: 0 });
  const timer = useRef<number>(undefined);
  const running = useRef<Promise<void> | null>(null);
  const path = `/lessons/${encodeURIComponent(first.lesson.slug)}`;

  const prove = useCallback(async () => {
    setModel((was) => ({ ...was, busy: true, says: '' }));
    try {
      const { proof } = await post<{ proof: Proof }>(`${path}/model-proofs`);
      setModel({ state: proof.verdict === 'proved' ? 'proved' : 'not proved', proof, busy: false, says: '' });
    } catch (error) {
      setModel((was) => ({ ...was, busy: false, says: sentenceOf(error) }));
    }
  }, [path]);

  const save = useCallback(async (): Promise<void> => {
    window.clearTimeout(timer.current);
    if (running.current) await running.current;
    if (newest.current === saved.current) return;
    const sending = newest.current;
    setSaving({ state: 'saving' });
    running.current = (async () => {
      try {
        const answer = await call<Draft>('PUT', `${path}/draft`, {
          revision: revision.current,
          lesson: tidy(sending),
        });
        revision.current = answer.revision;
        saved.current = sending;
        setModel((was) => ({ ...was, state: answer.model, proof: answer.modelProof }));
        setSaving({ state: newest.current === sending ? 'saved' : 'typing' });
        void client.invalidateQueries({ queryKey: ['lessons'] });
        void client.invalidateQueries({ queryKey: ['lesson', sending.slug] });
        if (answer.model === 'never proved' && sending.robot && sending.modelScript.trim() !== '')
          void prove();
      } catch (error) {
        if (error instanceof ApiProblem && error.status === 409 && error.body.lesson)
          setSaving({
            state: 'conflict',
            revision: error.body.revision as number,
            lesson: error.body.lesson as Lesson,
          });
        else
          setSaving({
            state: 'failed',
            says: sentenceOf(error),
            fields:
              error instanceof ApiProblem && Array.isArray(error.body.fields)
                ? (error.body.fields as { field: string; says: string }[])
                : [],
          });
      } finally {
        running.current = null;
      }
    })();
    await running.current;
  }, [client, path, prove]);

  useEffect(() => {
    newest.current = lesson;
    if (lesson === saved.current) return;
    setSaving((was) => (was.state === 'conflict' ? was : { state: 'typing' }));
    window.clearTimeout(timer.current);
    timer.current = window.setTimeout(() => void save(), REST_MS);
  }, [lesson, save]);

  useEffect(() => {
    const leave = () => void save();
    window.addEventListener('pagehide', leave);
    return () => {
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [save]);

  // A lesson that was never judged here is judged once when it is opened.
  useEffect(() => {
    if (first.model === 'never proved' && first.lesson.robot && first.lesson.modelScript.trim() !== '')
      void prove();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once
  }, []);

  /** Changes the lesson. Changes of the same field in quick succession are one step back. */
  const change = (next: Lesson, field = '') => {
    const at = Date.now();
    const together = field !== '' && last.current.field === field && at - last.current.at < TOGETHER_MS;
    last.current = { field, at };
    if (together) history.amend(next);
    else history.change(next);
  };
  /** After a conflict: goes on from the other version, with one of the two. */
  const settle = (theirs: { revision: number; lesson: Lesson }, keep: Lesson) => {
    revision.current = theirs.revision;
    saved.current = theirs.lesson;
    setSaving({ state: 'saved' });
    history.change(keep);
  };
  return { ...history, lesson, change, saving, save, settle, model, prove };
}

export type DraftHands = ReturnType<typeof useDraft>;
