import { KEY_HEADER } from '@vigilum/contract/changes';
import type { ApiProblem } from '@vigilum/contract/client';
import type { CourseValue, Draft, DraftState, NewTrial } from '@vigilum/contract/types';
import type { StoredTrial } from '@vigilum/core/classroom';
import type { Expectation } from '@vigilum/core/expect';
import { variantOf, type Lesson } from '@vigilum/core/lesson';
import type { Phrasebook } from '@vigilum/core/phrasebook';
import type { Kit } from '@vigilum/core/sensing';
import { api } from '../data/api.ts';
import { ask } from '../data/feed.ts';
import { keys } from '../data/keys.ts';
import { putNote, putTrial } from '../data/patches.ts';
import { queryClient } from '../data/queries.ts';
import type { Kind } from './doc.ts';
import type { Side } from './machine.ts';
import { alikeData, mergedData, mergedText, sameData } from './merge.ts';
import type { Addition } from './outbox.ts';

const once = (key: string) => ({ headers: { [KEY_HEADER]: key } });

/** The other side of a conflict, which the server sends along with its refusal. */
function sideIn<V>(problem: ApiProblem): Side<V> | null {
  const { theirs } = problem.body;
  return problem.status === 409 && theirs !== undefined ? (theirs as Side<V>) : null;
}

const data = { same: sameData, alike: alikeData, merged: mergedData };

/** What a team writes in a step of a lesson. */
export const noteKind: Kind<{ team: number; lesson: string; step: string }, string> = {
  name: 'note',
  label: ({ step }) => `what you wrote in “${step}”`,
  restMs: 1000,
  ways: { same: (a, b) => a === b, merged: mergedText },
  send: ({ team, lesson, step }, { value, revision, note, key }) =>
    api(
      'PUT /teams/:id/lessons/:slug/notes',
      { id: team, slug: lesson, body: { step, text: value, revision, note } },
      once(key),
    ),
  theirs: sideIn,
  stored: ({ team, lesson, step }, text, { revision }) =>
    putNote(queryClient, team, lesson, step, { text, revision }),
};

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

/** A lesson that its teacher works on. */
export const lessonKind: Kind<{ slug: string }, Lesson, DraftState> = {
  name: 'lesson',
  label: ({ slug }) => `the lesson “${slug}”`,
  restMs: 1200,
  ways: {
    same: (a, b) => a === b || sameData(tidy(a), tidy(b)),
    alike: (a, b) => alikeData(tidy(a), tidy(b)),
    merged: mergedData,
  },
  send: ({ slug }, { value, revision, note, key }) =>
    api('PUT /lessons/:slug/draft', { slug, body: { revision, lesson: tidy(value), note } }, once(key)),
  theirs: sideIn,
  stored: ({ slug }, _, answer) => {
    queryClient.setQueryData<Draft>(keys.draft(slug), (old) => (old ? { ...old, ...answer } : old));
    for (const queryKey of [
      keys.bench(slug),
      keys.lessonVersions(slug),
      keys.lessons,
      keys.allTeams,
      keys.courses,
      keys.kits,
      keys.periods,
    ])
      void queryClient.invalidateQueries({ queryKey });
  },
};

/** What a lesson expects, as its Expectations page changes it. */
export const expectationsKind: Kind<
  { slug: string },
  Expectation[],
  { revision: number; freed: number; lesson: Lesson }
> = {
  name: 'expectations',
  label: ({ slug }) => `what “${slug}” expects`,
  restMs: null,
  ways: data,
  send: ({ slug }, { value, revision, key }) =>
    api('PATCH /lessons/:slug', { slug, body: { revision, expectations: value } }, once(key)),
  theirs: (problem) => {
    const side = sideIn<Lesson>(problem);
    return side && { revision: side.revision, value: variantOf(side.value).expectations };
  },
  stored: ({ slug }, _, { revision }) =>
    void ask(queryClient, [{ what: 'lesson', lesson: slug, of: revision }]),
};

export const kitKind: Kind<{ slug: string }, Kit> = {
  name: 'kit',
  label: ({ slug }) => `the kit “${slug}”`,
  restMs: null,
  ways: data,
  send: ({ slug }, { value, revision, note, key }) =>
    api('PUT /kits/:slug', { slug, body: { revision, kit: value, note } }, once(key)),
  theirs: sideIn,
  stored: ({ slug }) => void ask(queryClient, [{ what: 'kit', kit: slug }]),
};

export const courseKind: Kind<{ id: number }, CourseValue> = {
  name: 'course',
  label: () => 'a course',
  restMs: null,
  ways: { same: sameData, alike: alikeData, merged: () => null },
  send: ({ id }, { value, revision, note, key }) =>
    api('PUT /courses/:id', { id, body: { ...value, revision, note } }, once(key)),
  theirs: sideIn,
  stored: ({ id }) => void ask(queryClient, [{ what: 'course', course: id }]),
};

export const phrasebookKind: Kind<{ id: number; kit: string }, Phrasebook> = {
  name: 'phrasebook',
  label: () => 'a phrasebook',
  restMs: null,
  ways: data,
  send: ({ id }, { value, revision, note, key }) =>
    api('PUT /phrasebooks/:id', { id, body: { revision, book: value, note } }, once(key)),
  theirs: sideIn,
  stored: ({ kit }) => void ask(queryClient, [{ what: 'phrasebook', kit }]),
};

export interface GivenTrial {
  team: number;
  lesson: string;
  trial: NewTrial;
}

/** A floor trial. The floor is often where the network is not. */
export const trialAddition: Addition<GivenTrial, { id: number; trial: StoredTrial }> = {
  name: 'trial',
  label: () => 'a floor trial',
  send: ({ team, lesson, trial }, key) =>
    api('POST /teams/:id/lessons/:slug/floor-trials', { id: team, slug: lesson, body: trial }, once(key)),
  stored: ({ team, lesson }, { trial }) => putTrial(queryClient, team, lesson, trial),
};
