import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Lesson } from '@vigilum/core/lesson';
import type { Draft } from '@vigilum/contract/types';
import { api } from '../data/api.ts';
import { keys } from '../data/keys.ts';
import { sentenceOf } from '../ui/sentenceOf.ts';
import { lessonKind } from '../saving/kinds.ts';
import { useDoc } from '../saving/useDoc.ts';
import { useHistory } from '../ui/useHistory.ts';

/** Changes of one field that follow each other this closely are undone together, ms. */
const TOGETHER_MS = 1500;

export const useDraftQuery = (slug: string) =>
  useQuery({
    queryKey: keys.draft(slug),
    queryFn: () => api('GET /lessons/:slug/draft', { slug }),
    staleTime: 0,
    // A lesson in work is always asked for anew: what was kept may be older than the last save.
    gcTime: 0,
  });

/** A lesson in work: undo and redo, saved a moment after the last change, its model answer judged after each save. */
export function useDraft(first: Draft) {
  const { slug } = first.lesson;
  const doc = useDoc(lessonKind, { slug }, { revision: first.revision, value: first.lesson }, false);
  const { state: saving, answer } = doc;
  const history = useHistory<Lesson>(saving.shown);
  const { now: lesson, change: remember } = history;
  const [model, setModel] = useState({ state: first.model, proof: first.modelProof, busy: false, says: '' });
  const last = useRef({ field: '', at: 0 });

  const prove = useCallback(async () => {
    setModel((was) => ({ ...was, busy: true, says: '' }));
    try {
      const { proof } = await api('POST /lessons/:slug/model-proofs', { slug });
      setModel({ state: proof.verdict === 'proved' ? 'proved' : 'not proved', proof, busy: false, says: '' });
    } catch (error) {
      setModel((was) => ({ ...was, busy: false, says: sentenceOf(error) }));
    }
  }, [slug]);

  // Typing, undo and redo change the lesson here; another screen, or the choice of theirs, changes it there.
  useEffect(() => {
    if (lesson !== doc.state.shown) doc.happen({ is: 'typed', value: lesson });
  }, [lesson, doc]);
  const { outside } = doc;
  const seen = useRef(outside);
  useEffect(() => {
    if (outside === seen.current) return;
    seen.current = outside;
    remember(doc.state.shown);
  }, [outside, doc, remember]);

  // What was saved says what became of the model answer; one that was never judged is judged.
  const judged = useRef(answer);
  useEffect(() => {
    if (!answer || answer === judged.current) return;
    judged.current = answer;
    setModel((was) => ({ ...was, state: answer.model, proof: answer.modelProof }));
    const { robot, modelScript } = answer.lesson;
    if (answer.model === 'never proved' && robot && modelScript.trim() !== '') void prove();
  }, [answer, prove]);
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
  /** Saves what is there now; settles when the server has answered. */
  const save = async () => {
    doc.save();
    await doc.quiet();
  };
  return { ...history, lesson, change, saving, happen: doc.happen.bind(doc), save, model, prove };
}

export type DraftHands = ReturnType<typeof useDraft>;
