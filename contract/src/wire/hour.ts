import type { HelpCall } from '@vigilum/core/classroom';
import type { HourPlan, HourStep, StripStep } from '@vigilum/core/hour';
import { stepKinds } from '@vigilum/core/lesson';
import Joi from 'joi';
import { count, moment, rowId, whole, words } from '../basics.ts';
import {
  either,
  list,
  maybe,
  more,
  oneOf,
  optional,
  record,
  shape,
  shapeOf,
  type RouteShapes,
  type Typed,
} from '../shape.ts';
import { hour } from './classes.ts';
import { flag, id, named, number, text } from './shared.ts';

const sentence = words(300);
const stepId = words(40);
/** Minutes of the hour: pauses do not count. */
const minutes = number;

const hourNote = shape({
  id: count,
  /** `hint` opens the next hint of a step; `note` is in the teacher's words. */
  kind: oneOf('note', 'hint'),
  says: text,
  /** The step of a hint; null for a note. */
  step: maybe(text),
  at: moment,
  /** When the team marked it as seen; null while it has not. */
  seenAt: maybe(moment),
});
/** Something that the teacher sends to a team while the hour goes on. */
export type HourNote = Typed<typeof hourNote>;
const stuckCall = shape({ about: text, at: moment });
/** A team says that it is stuck. */
export type StuckCall = Typed<typeof stuckCall>;
const matTurn = shape({
  id: count,
  team: count,
  /** From 1. */
  mat: count,
  beganMin: minutes,
  /** Null while it goes on. */
  endedMin: maybe(minutes),
  /** Whether the team has ticked its cautions. */
  ticked: flag,
});
/** A turn on a mat. */
export type MatTurn = Typed<typeof matTurn>;

/** State and number of every step of a team’s lesson. */
const strip = list(
  shapeOf<Pick<StripStep, 'id' | 'state' | 'figure'>>()({
    id: text,
    state: oneOf('done', 'now', 'risk', 'fault', 'none'),
    figure: text,
  }),
);
const hourStep = shapeOf<HourStep>()({
  id: text,
  kind: oneOf(...stepKinds),
  word: text,
  title: text,
  minutes,
  fromMin: minutes,
  toMin: minutes,
  onMat: flag,
  trials: maybe(count),
});

const sheetTeam = more(named, {
  robot: text,
  strip,
  /** What stands against it at the first step that is open, or risky. */
  finding: maybe(shape({ says: text, mend: text })),
  help: maybe(Joi.object<HelpCall>().unknown()),
  lastAt: maybe(moment),
  /** The step that its tablet shows; null before it was opened. */
  place: maybe(text),
  visits: list(shape({ step: text, atMin: minutes })),
  /** When it was proved, minutes of the hour; null where it is not. */
  provedMin: maybe(minutes),
  call: maybe(stuckCall),
  /** What was sent to it in this hour, latest first. */
  notes: list(hourNote),
  /** The place in the queue that the teacher set; null where the rule decides. */
  pinned: maybe(count),
});
/** One team on the live sheet. */
export type SheetTeam = Typed<typeof sheetTeam>;

const plan = shapeOf<HourPlan>()({
  minutes: optional(record(whole(0, 480), stepId).max(60)),
  trials: optional(record(whole(1, 50), stepId).max(60)),
  atHome: optional(list(stepId).max(60)),
  skipped: optional(list(stepId).max(60)),
});
const runFields = {
  mats: count,
  /** How long a turn on a mat may be, min. */
  turnMin: count,
  /** Whether a team ticks its cautions when its turn begins. */
  asksTick: flag,
  /** Everybody stops: what the tablets say instead; null while they do not. */
  stopped: maybe(text),
  /** A sentence to all; null for none. */
  told: maybe(shape({ says: text, at: moment })),
};
const { mats, turnMin, asksTick, stopped, told } = runFields;
const run = shape({ ...runFields, plan });
/** How an hour is run. */
export type HourRun = Typed<typeof run>;
const runChange = shape({
  mats: optional(whole(0, 12)),
  turnMin: optional(whole(1, 60)),
  asksTick: optional(flag),
  stopped: optional(maybe(sentence)),
  told: optional(maybe(sentence)),
  plan: optional(plan),
}).min(1);
export type HourRunChange = Typed<typeof runChange>;

const sheet = shape({
  now: moment,
  hour,
  run,
  steps: list(hourStep),
  teams: list(sheetTeam),
  turns: list(matTurn),
  /** What teams of this class took for the steps of this lesson in earlier hours. */
  before: list(shape({ step: text, minutes, team: count })),
});
/** All that a teacher runs an hour by. */
export type Sheet = Typed<typeof sheet>;

const teamMat = maybe(
  either(
    shape({
      is: oneOf('on'),
      turn: count,
      mat: count,
      beganMin: minutes,
      ticked: flag,
      cautions: list(text),
      step: text,
    }),
    shape({ is: oneOf('waiting'), place: count, of: count, fromMin: minutes }),
  ),
);
/** Where a team is with the mats. */
export type TeamMat = Typed<typeof teamMat>;
const teamHour = shape({
  now: moment,
  /** Null while the class has none. */
  hour: maybe(hour),
  run: maybe(shape({ stopped, told, turnMin, asksTick })),
  steps: list(hourStep),
  /** Id of the step that is to be done now, null when all is done; and since when. */
  at: maybe(shape({ step: maybe(text), sinceMin: minutes })),
  /** What stands against its work now, to be chosen from when it says that it is stuck. */
  finding: maybe(text),
  notes: list(hourNote),
  call: maybe(stuckCall),
  mat: teamMat,
});
/** What a team's tablet knows of the hour that is going on. */
export type TeamHour = Typed<typeof teamHour>;

const publicBoard = shape({
  now: moment,
  class: text,
  school: text,
  hour: maybe(hour),
  run: maybe(shape({ stopped, told, turnMin, mats })),
  steps: list(hourStep),
  teams: list(more(named, { strip })),
  turns: list(matTurn),
  /** Teams in the queue, first one first, with when their turn is expected. */
  queue: list(shape({ team: count, fromMin: minutes })),
});
/** What a board shows: the sheet without anything private. */
export type PublicBoard = Typed<typeof publicBoard>;

const newNote = shape({
  kind: oneOf('note', 'hint'),
  says: sentence,
  step: optional(stepId.when('kind', { is: 'hint', then: Joi.required(), otherwise: Joi.forbidden() })),
});

export const hourRoutes = {
  'GET /periods/:id/sheet': { reply: sheet },
  'PATCH /periods/:id/run': { body: runChange, reply: run },
  'POST /periods/:id/teams/:team/notes': { body: newNote, reply: hourNote },
  'DELETE /hour-notes/:id': { reply: null },
  /** The teacher was there: the team's call is over. */
  'DELETE /periods/:id/teams/:team/call': { reply: null },
  /** A team comes on a mat; whoever was on it is done. */
  'POST /periods/:id/turns': { body: shape({ team: rowId, mat: whole(1, 12) }), reply: id },
  'DELETE /periods/:id/turns/:turn': { reply: null },
  /** The turn goes on, when it was ended by mistake. */
  'POST /periods/:id/turns/:turn/restoration': { reply: null },
  'PUT /periods/:id/teams/:team/pin': { body: shape({ place: maybe(whole(1, 40)) }), reply: null },

  'GET /teams/:id/hour': { reply: teamHour },
  'PUT /teams/:id/hour/call': { body: shape({ about: sentence }), reply: null },
  'DELETE /teams/:id/hour/call': { reply: null },
  'PUT /teams/:id/hour/notes/:note/seen': { reply: null },
  'PUT /teams/:id/hour/turns/:turn/tick': { reply: null },
  'GET /board': { reply: publicBoard },
} satisfies RouteShapes;
