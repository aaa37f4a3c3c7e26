import Joi from 'joi';
import { SCRIPT_LIMIT } from '@vigilum/core/script';
import { count, moment, seedNumber, verbatim, whole, within, words, wordsOrNone } from '../basics.ts';
import { runLogSchema, type RunLog } from '../files/runLog.ts';
import { MOST_UPDATES } from '../limits.ts';
import {
  either,
  list,
  maybe,
  more,
  optional,
  record,
  shape,
  type RouteShapes,
  type Typed,
} from '../shape.ts';
import { answers, savedScript, storedProof, storedTrial, storedTry, walkTrial } from './evidence.ts';
import { flag, id, judgement, number, proof, text } from './shared.ts';

/** Numbers of a script that were changed for this run alone, by the name of the knob, in its unit. */
const knobs = record(within(-100_000, 100_000), Joi.string().max(60)).max(20);
/** The step of the lesson that something was done in. */
const stepId = words(40);
const version = whole(1, 2 ** 31 - 1);
const length = whole(0, 10 * SCRIPT_LIMIT.characters);

const update = shape({
  client: Joi.string().min(1).max(64),
  changes: list(
    either(
      length,
      Joi.array<(number | string)[]>().items(length, verbatim(SCRIPT_LIMIT.characters)).min(1).max(20_000),
    ),
  ).max(20_000),
});
/** Changes of a script by one editor, as the editor writes them: lengths kept, and lengths replaced by lines. */
export type ScriptUpdate = Typed<typeof update>;

const scriptDocument = shape({
  revision: count,
  text,
  /** Its newest version; null before the first. */
  saved: maybe(savedScript),
});
/** A script as its editors share it. `revision` counts updates. */
export type ScriptDocument = Typed<typeof scriptDocument>;
const scriptPush = shape({
  /** The revision that the updates were made from. */
  from: count,
  updates: list(update).max(MOST_UPDATES),
  /** Present when typing rests: the text becomes a version. */
  settle: optional(shape({ by: wordsOrNone(40), restoredFrom: optional(version) })),
});
export type ScriptPush = Typed<typeof scriptPush>;
const scriptAnswer = shape({
  revision: count,
  /** The newest version; null before the first. */
  saved: maybe(savedScript),
});
export type ScriptAnswer = Typed<typeof scriptAnswer>;
const scriptVersion = shape({
  version: count,
  at: moment,
  by: text,
  restoredFrom: maybe(count),
  steps: count,
  tries: count,
});
export type ScriptVersion = Typed<typeof scriptVersion>;
const newVersion = shape({
  text: verbatim(SCRIPT_LIMIT.characters),
  /** The version this text was made from; 0 for the first. */
  basedOn: count,
  /** Who writes, in their own words; empty when nobody says. */
  by: optional(wordsOrNone(40)),
  /** The older version that this one brings back. */
  restoredFrom: optional(version),
});
export type NewVersion = Typed<typeof newVersion>;

const newTry = shape({
  scriptVersion: version,
  start: words(16),
  seed: seedNumber,
  predicted: optional(maybe(within(-100_000, 100_000))),
  step: optional(stepId),
  knobs: optional(knobs),
});
export type NewTry = Typed<typeof newTry>;
const newProof = shape({
  scriptVersion: version,
  seed: seedNumber,
  runs: whole(5, 500),
  step: optional(stepId),
});
export type NewProof = Typed<typeof newProof>;
const newTrial = shape({
  pastMm: optional(maybe(within(-10_000, 10_000))),
  gapMm: optional(maybe(within(0, 20_000))),
  turnedDeg: optional(maybe(within(-3600, 3600))),
  counted: optional(maybe(within(-10_000, 10_000))),
  changed: optional(wordsOrNone(120)),
  knobs: optional(knobs),
  /** The floor step in which it was driven. */
  step: optional(stepId),
  /** Null where nobody said. */
  rested: maybe(flag),
  tookS: maybe(within(0, 3600)),
  /** What else was measured or seen, by the key of what was asked. */
  seen: optional(answers),
  note: optional(wordsOrNone(200)),
  /** When it was driven, ms since the epoch, where that is not now: a trial that waited for the network. */
  at: optional(moment),
});
export type NewTrial = Typed<typeof newTrial>;

const newNote = shape({
  step: stepId,
  text: verbatim(2000),
  /** The revision it was made from; 0 for the first. */
  revision: count,
  /** What brought it about; empty for a save as one goes. */
  note: optional(wordsOrNone(120)),
});
/** Something a team wrote in a step. */
export type NewNote = Typed<typeof newNote>;
const keptLog = shape({
  id: count,
  name: text,
  trace: shape({
    times: Joi.array<RunLog['times']>(),
    signals: Joi.object<RunLog['signals']>(),
  }),
  at: moment,
});
export type KeptLog = Typed<typeof keptLog>;

export const teamRoutes = {
  'PUT /teams/:id/lessons/:slug/place': { body: shape({ step: stepId }), reply: null },
  'PUT /teams/:id/lessons/:slug/notes': { body: newNote, reply: shape({ revision: count }) },
  'GET /teams/:id/lessons/:slug/script': { reply: scriptDocument },
  'GET /teams/:id/lessons/:slug/script-updates': {
    query: shape({ from: Joi.string() }),
    reply: shape({ updates: list(update), saved: maybe(savedScript) }),
  },
  'POST /teams/:id/lessons/:slug/script-updates': { body: scriptPush, reply: scriptAnswer },
  'GET /teams/:id/lessons/:slug/script-versions': { reply: shape({ versions: list(scriptVersion) }) },
  'POST /teams/:id/lessons/:slug/script-versions': { body: newVersion, reply: shape({ version: count }) },
  'GET /teams/:id/lessons/:slug/script-versions/:version': { reply: shape({ version: count, text }) },
  'POST /teams/:id/lessons/:slug/tries': {
    body: newTry,
    reply: more(id, { judgements: list(judgement), pastMm: maybe(number), try: storedTry }),
  },
  'POST /teams/:id/lessons/:slug/proofs': { body: newProof, reply: more(id, { proof, stored: storedProof }) },
  'POST /teams/:id/lessons/:slug/floor-trials': { body: newTrial, reply: more(id, { trial: storedTrial }) },
  /** Every try, proof and trial of the floor of this work, oldest first, with its numbers and what came out. */
  'GET /teams/:id/lessons/:slug/walk': { reply: shape({ trials: list(walkTrial) }) },
  'DELETE /floor-trials/:id': { reply: null },
  'POST /floor-trials/:id/restoration': { reply: null },
  'GET /teams/:id/lessons/:slug/logs': { reply: shape({ logs: list(keptLog) }) },
  'POST /teams/:id/lessons/:slug/logs/imports': { body: runLogSchema, reply: id },
  'DELETE /run-logs/:id': { reply: null },
  'POST /run-logs/:id/restoration': { reply: null },
} satisfies RouteShapes;
