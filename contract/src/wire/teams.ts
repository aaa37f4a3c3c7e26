import Joi from 'joi';
import type { SavedScript, StoredProof, StoredTrial, StoredTry } from '@vigilum/core/classroom';
import type { Answers, Judgement, Proof } from '@vigilum/core/expect';
import { SCRIPT_LIMIT } from '@vigilum/core/script';
import type { Trial } from '@vigilum/core/tuning';
import { count, moment, seedNumber, verbatim, whole, within, words, wordsOrNone } from '../basics.ts';
import { runLogSchema, type RunLog } from '../files/runLog.ts';
import { MOST_UPDATES } from '../limits.ts';
import { answers, savedScript, storedProof, storedTrial, storedTry, walkTrial } from './evidence.ts';
import { id, judgement, maybe, proof, text } from './shared.ts';

/** Changes of a script by one editor, as the editor writes them: lengths kept, and lengths replaced by lines. */
export interface ScriptUpdate {
  client: string;
  changes: (number | (number | string)[])[];
}
/** A script as its editors share it. `revision` counts updates. */
export interface ScriptDocument {
  revision: number;
  text: string;
  /** Its newest version; null before the first. */
  saved: SavedScript | null;
}
export interface ScriptPush {
  /** The revision that the updates were made from. */
  from: number;
  updates: ScriptUpdate[];
  /** Present when typing rests: the text becomes a version. */
  settle?: { by: string; restoredFrom?: number };
}
export interface ScriptAnswer {
  revision: number;
  /** The newest version; null before the first. */
  saved: SavedScript | null;
}
export interface ScriptVersion {
  version: number;
  at: number;
  by: string;
  restoredFrom: number | null;
  steps: number;
  tries: number;
}
export interface NewVersion {
  text: string;
  /** The version this text was made from; 0 for the first. */
  basedOn: number;
  /** Who writes, in their own words; empty when nobody says. */
  by?: string;
  /** The older version that this one brings back. */
  restoredFrom?: number;
}
export interface NewTry {
  scriptVersion: number;
  start: string;
  seed: number;
  predicted?: number | null;
  step?: string;
  /** Numbers of the script that were changed for this run alone, by the name of the knob, in its unit. */
  knobs?: Record<string, number>;
}
export interface NewProof {
  scriptVersion: number;
  seed: number;
  runs: number;
  step?: string;
}
export interface NewTrial {
  /** The floor step in which it was driven. */
  step?: string;
  pastMm?: number | null;
  gapMm?: number | null;
  turnedDeg?: number | null;
  counted?: number | null;
  changed?: string;
  /** Numbers that were changed on the robot for this trial, by the name of the knob, in its unit. */
  knobs?: Record<string, number>;
  /** Null where nobody said. */
  rested: boolean | null;
  tookS: number | null;
  /** What else was measured or seen, by the key of what was asked. */
  seen?: Answers;
  note?: string;
  /** When it was driven, ms since the epoch, where that is not now: a trial that waited for the network. */
  at?: number;
}
/** Something a team wrote in a step. */
export interface NewNote {
  step: string;
  text: string;
  /** The revision it was made from; 0 for the first. */
  revision: number;
  /** What brought it about; empty for a save as one goes. */
  note?: string;
}
export interface KeptLog {
  id: number;
  name: string;
  trace: Omit<RunLog, 'name'>;
  at: number;
}

export interface TeamRoutes {
  'PUT /teams/:id/lessons/:slug/place': { body: { step: string }; reply: undefined };
  'PUT /teams/:id/lessons/:slug/notes': { body: NewNote; reply: { revision: number } };
  'GET /teams/:id/lessons/:slug/script': { reply: ScriptDocument };
  'GET /teams/:id/lessons/:slug/script-updates': {
    query: { from: string };
    reply: { updates: ScriptUpdate[]; saved: SavedScript | null };
  };
  'POST /teams/:id/lessons/:slug/script-updates': { body: ScriptPush; reply: ScriptAnswer };
  'GET /teams/:id/lessons/:slug/script-versions': { reply: { versions: ScriptVersion[] } };
  'POST /teams/:id/lessons/:slug/script-versions': { body: NewVersion; reply: { version: number } };
  'GET /teams/:id/lessons/:slug/script-versions/:version': { reply: { version: number; text: string } };
  'POST /teams/:id/lessons/:slug/tries': {
    body: NewTry;
    reply: { id: number; judgements: Judgement[]; pastMm: number | null; try: StoredTry };
  };
  'POST /teams/:id/lessons/:slug/proofs': {
    body: NewProof;
    reply: { id: number; proof: Proof; stored: StoredProof };
  };
  'POST /teams/:id/lessons/:slug/floor-trials': { body: NewTrial; reply: { id: number; trial: StoredTrial } };
  /** Every try, proof and trial of the floor of this work, oldest first, with its numbers and what came out. */
  'GET /teams/:id/lessons/:slug/walk': { reply: { trials: Trial[] } };
  'DELETE /floor-trials/:id': { reply: undefined };
  'POST /floor-trials/:id/restoration': { reply: undefined };
  'GET /teams/:id/lessons/:slug/logs': { reply: { logs: KeptLog[] } };
  'POST /teams/:id/lessons/:slug/logs/imports': { body: RunLog; reply: { id: number } };
  'DELETE /run-logs/:id': { reply: undefined };
  'POST /run-logs/:id/restoration': { reply: undefined };
}

/** Numbers of a script by the name of the knob. */
const knobs = Joi.object<Record<string, number>>()
  .pattern(Joi.string().max(60), within(-100_000, 100_000))
  .max(20);
/** The step of the lesson that something was done in. */
const stepId = words(40);
const version = whole(1, 2 ** 31 - 1);
const update = Joi.object<ScriptUpdate>({
  client: Joi.string().min(1).max(64).required(),
  changes: Joi.array()
    .items(
      Joi.alternatives().try(
        whole(0, 10 * SCRIPT_LIMIT.characters),
        Joi.array()
          .items(whole(0, 10 * SCRIPT_LIMIT.characters), verbatim(SCRIPT_LIMIT.characters))
          .min(1)
          .max(20_000),
      ),
    )
    .max(20_000)
    .required(),
});
export const teamRequests = {
  'PUT /teams/:id/lessons/:slug/place': Joi.object<{ step: string }>({ step: stepId.required() }),
  'PUT /teams/:id/lessons/:slug/notes': Joi.object<NewNote>({
    step: stepId.required(),
    text: verbatim(2000).required(),
    revision: count.required(),
    note: wordsOrNone(120),
  }),
  'POST /teams/:id/lessons/:slug/script-updates': Joi.object<ScriptPush>({
    from: count.required(),
    updates: Joi.array().items(update).max(MOST_UPDATES).required(),
    settle: Joi.object({ by: wordsOrNone(40).required(), restoredFrom: version }),
  }),
  'POST /teams/:id/lessons/:slug/script-versions': Joi.object<NewVersion>({
    text: verbatim(SCRIPT_LIMIT.characters).required(),
    basedOn: count.required(),
    by: wordsOrNone(40),
    restoredFrom: version,
  }),
  'POST /teams/:id/lessons/:slug/tries': Joi.object<NewTry>({
    scriptVersion: version.required(),
    start: words(16).required(),
    seed: seedNumber.required(),
    predicted: within(-100_000, 100_000).allow(null),
    step: stepId,
    knobs,
  }),
  'POST /teams/:id/lessons/:slug/proofs': Joi.object<NewProof>({
    scriptVersion: version.required(),
    seed: seedNumber.required(),
    runs: whole(5, 500).required(),
    step: stepId,
  }),
  'POST /teams/:id/lessons/:slug/floor-trials': Joi.object<NewTrial>({
    pastMm: within(-10_000, 10_000).allow(null),
    gapMm: within(0, 20_000).allow(null),
    turnedDeg: within(-3600, 3600).allow(null),
    counted: within(-10_000, 10_000).allow(null),
    changed: wordsOrNone(120),
    knobs,
    step: stepId,
    rested: Joi.boolean().allow(null).required(),
    tookS: within(0, 3600).allow(null).required(),
    seen: answers,
    note: wordsOrNone(200),
    at: moment,
  }),
  'POST /teams/:id/lessons/:slug/logs/imports': runLogSchema,
};

export const teamReplies = {
  'PUT /teams/:id/lessons/:slug/place': null,
  'PUT /teams/:id/lessons/:slug/notes': Joi.object({ revision: count.required() }),
  'GET /teams/:id/lessons/:slug/script': Joi.object<ScriptDocument>({
    revision: count.required(),
    text: text.required(),
    saved: maybe(savedScript),
  }),
  'GET /teams/:id/lessons/:slug/script-updates': Joi.object({
    updates: Joi.array().items(update).required(),
    saved: maybe(savedScript),
  }),
  'POST /teams/:id/lessons/:slug/script-updates': Joi.object<ScriptAnswer>({
    revision: count.required(),
    saved: maybe(savedScript),
  }),
  'GET /teams/:id/lessons/:slug/script-versions': Joi.object({
    versions: Joi.array()
      .items(
        Joi.object<ScriptVersion>({
          version: count.required(),
          at: moment.required(),
          by: text.required(),
          restoredFrom: maybe(count),
          steps: count.required(),
          tries: count.required(),
        }),
      )
      .required(),
  }),
  'POST /teams/:id/lessons/:slug/script-versions': Joi.object({ version: count.required() }),
  'GET /teams/:id/lessons/:slug/script-versions/:version': Joi.object({
    version: count.required(),
    text: text.required(),
  }),
  'POST /teams/:id/lessons/:slug/tries': id.keys({
    judgements: Joi.array().items(judgement).required(),
    pastMm: maybe(Joi.number()),
    try: storedTry.required(),
  }),
  'POST /teams/:id/lessons/:slug/proofs': id.keys({
    proof: proof.required(),
    stored: storedProof.required(),
  }),
  'POST /teams/:id/lessons/:slug/floor-trials': id.keys({ trial: storedTrial.required() }),
  'GET /teams/:id/lessons/:slug/walk': Joi.object({ trials: Joi.array().items(walkTrial).required() }),
  'DELETE /floor-trials/:id': null,
  'POST /floor-trials/:id/restoration': null,
  'GET /teams/:id/lessons/:slug/logs': Joi.object({
    logs: Joi.array()
      .items(
        Joi.object({
          id: count.required(),
          name: text.required(),
          trace: Joi.object({ times: Joi.array().required(), signals: Joi.object().required() }).required(),
          at: moment.required(),
        }),
      )
      .required(),
  }),
  'POST /teams/:id/lessons/:slug/logs/imports': id,
  'DELETE /run-logs/:id': null,
  'POST /run-logs/:id/restoration': null,
};
