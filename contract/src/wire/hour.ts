import Joi from 'joi';
import type { HelpCall, Stage } from '@vigilum/core/classroom';
import type { HourPlan, HourStep, StripStep, Took, Visit } from '@vigilum/core/hour';
import { stepKinds } from '@vigilum/core/lesson';
import { count, moment, oneOf, whole, words } from '../basics.ts';
import { hourFields, type Hour } from './classes.ts';
import { id, maybe, named, text } from './shared.ts';

/** Something that the teacher sends to a team while the hour goes on. */
export interface HourNote {
  id: number;
  /** `hint` opens the next hint of a step; `note` is in the teacher's words. */
  kind: 'note' | 'hint';
  says: string;
  /** The step of a hint; null for a note. */
  step: string | null;
  at: number;
  /** When the team marked it as seen; null while it has not. */
  seenAt: number | null;
}
/** A team says that it is stuck. */
export interface StuckCall {
  about: string;
  at: number;
}
/** A turn on a mat. Minutes are those of the hour: pauses do not count. */
export interface MatTurn {
  id: number;
  team: number;
  /** From 1. */
  mat: number;
  beganMin: number;
  /** Null while it goes on. */
  endedMin: number | null;
  /** Whether the team has ticked its cautions. */
  ticked: boolean;
}
/** One team on the live sheet. */
export interface SheetTeam {
  id: number;
  name: string;
  robot: string;
  /** State and number of every step of its lesson. */
  strip: Pick<StripStep, 'id' | 'state' | 'figure'>[];
  /** What stands against it at the first step that is open, or risky. */
  finding: Pick<Stage, 'says' | 'mend'> | null;
  help: HelpCall | null;
  lastAt: number | null;
  /** The step that its tablet shows; null before it was opened. */
  place: string | null;
  visits: Visit[];
  /** When it was proved, minutes of the hour; null where it is not. */
  provedMin: number | null;
  call: StuckCall | null;
  /** What was sent to it in this hour, latest first. */
  notes: HourNote[];
  /** The place in the queue that the teacher set; null where the rule decides. */
  pinned: number | null;
}
/** How an hour is run. */
export interface HourRun {
  mats: number;
  /** How long a turn on a mat may be, min. */
  turnMin: number;
  /** Whether a team ticks its cautions when its turn begins. */
  asksTick: boolean;
  /** Everybody stops: what the tablets say instead; null while they do not. */
  stopped: string | null;
  /** A sentence to all; null for none. */
  told: { says: string; at: number } | null;
  plan: HourPlan;
}
/** All that a teacher runs an hour by. */
export interface Sheet {
  now: number;
  hour: Hour;
  run: HourRun;
  steps: HourStep[];
  teams: SheetTeam[];
  turns: MatTurn[];
  /** What teams of this class took for the steps of this lesson in earlier hours. */
  before: Took[];
}
export interface HourRunChange {
  mats?: number;
  turnMin?: number;
  asksTick?: boolean;
  stopped?: string | null;
  told?: string | null;
  plan?: HourPlan;
}

/** Where a team is with the mats. */
export type TeamMat =
  | {
      is: 'on';
      turn: number;
      mat: number;
      beganMin: number;
      ticked: boolean;
      cautions: string[];
      step: string;
    }
  | { is: 'waiting'; place: number; of: number; fromMin: number }
  | null;
/** What a team's tablet knows of the hour that is going on. */
export interface TeamHour {
  now: number;
  /** Null while the class has none. */
  hour: Hour | null;
  run: Pick<HourRun, 'stopped' | 'told' | 'turnMin' | 'asksTick'> | null;
  steps: HourStep[];
  /** Id of the step that is to be done now, null when all is done; and since when, minutes of the hour. */
  at: { step: string | null; sinceMin: number } | null;
  /** What stands against its work now, to be chosen from when it says that it is stuck. */
  finding: string | null;
  notes: HourNote[];
  call: StuckCall | null;
  mat: TeamMat;
}
/** What a board shows: the sheet without anything private. */
export interface PublicBoard {
  now: number;
  class: string;
  school: string;
  hour: Hour | null;
  run: Pick<HourRun, 'stopped' | 'told' | 'turnMin' | 'mats'> | null;
  steps: HourStep[];
  teams: (Pick<SheetTeam, 'id' | 'name'> & { strip: Pick<StripStep, 'id' | 'state' | 'figure'>[] })[];
  turns: MatTurn[];
  /** Teams in the queue, first one first, with when their turn is expected. */
  queue: { team: number; fromMin: number }[];
}

export interface HourRoutes {
  'GET /periods/:id/sheet': { reply: Sheet };
  'PATCH /periods/:id/run': { body: HourRunChange; reply: HourRun };
  'POST /periods/:id/teams/:team/notes': {
    body: { kind: 'note' | 'hint'; says: string; step?: string };
    reply: HourNote;
  };
  'DELETE /hour-notes/:id': { reply: undefined };
  /** The teacher was there: the team's call is over. */
  'DELETE /periods/:id/teams/:team/call': { reply: undefined };
  /** A team comes on a mat; whoever was on it is done. */
  'POST /periods/:id/turns': { body: { team: number; mat: number }; reply: { id: number } };
  'DELETE /periods/:id/turns/:turn': { reply: undefined };
  /** The turn goes on, when it was ended by mistake. */
  'POST /periods/:id/turns/:turn/restoration': { reply: undefined };
  'PUT /periods/:id/teams/:team/pin': { body: { place: number | null }; reply: undefined };

  'GET /teams/:id/hour': { reply: TeamHour };
  'PUT /teams/:id/hour/call': { body: { about: string }; reply: undefined };
  'DELETE /teams/:id/hour/call': { reply: undefined };
  'PUT /teams/:id/hour/notes/:note/seen': { reply: undefined };
  'PUT /teams/:id/hour/turns/:turn/tick': { reply: undefined };
  'GET /board': { reply: PublicBoard };
}

const sentence = words(300);
const stepId = words(40);
const plan = Joi.object<HourPlan>({
  minutes: Joi.object().pattern(stepId, whole(0, 480)).max(60),
  trials: Joi.object().pattern(stepId, whole(1, 50)).max(60),
  atHome: Joi.array().items(stepId).max(60),
  skipped: Joi.array().items(stepId).max(60),
});
export const hourRequests = {
  'PATCH /periods/:id/run': Joi.object<HourRunChange>({
    mats: whole(0, 12),
    turnMin: whole(1, 60),
    asksTick: Joi.boolean(),
    stopped: sentence.allow(null),
    told: sentence.allow(null),
    plan,
  }).min(1),
  'POST /periods/:id/teams/:team/notes': Joi.object<{ kind: 'note' | 'hint'; says: string; step?: string }>({
    kind: oneOf('note', 'hint').required(),
    says: sentence.required(),
    step: stepId.when('kind', { is: 'hint', then: Joi.required(), otherwise: Joi.forbidden() }),
  }),
  'POST /periods/:id/turns': Joi.object<{ team: number; mat: number }>({
    team: whole(1, 2 ** 31 - 1).required(),
    mat: whole(1, 12).required(),
  }),
  'PUT /periods/:id/teams/:team/pin': Joi.object<{ place: number | null }>({
    place: whole(1, 40).allow(null).required(),
  }),
  'PUT /teams/:id/hour/call': Joi.object<{ about: string }>({ about: sentence.required() }),
};

const minutes = Joi.number();
const hour = Joi.object<Hour>(hourFields);
const steps = Joi.array()
  .items(
    Joi.object<HourStep>({
      id: text.required(),
      kind: oneOf(...stepKinds).required() as Joi.Schema<HourStep['kind']>,
      word: text.required(),
      title: text.required(),
      minutes: minutes.required(),
      fromMin: minutes.required(),
      toMin: minutes.required(),
      onMat: Joi.boolean().required(),
      trials: maybe(count),
    }),
  )
  .required();
const told = maybe(Joi.object({ says: text.required(), at: moment.required() }));
const hourNote = Joi.object<HourNote>({
  id: count.required(),
  kind: oneOf('note', 'hint').required(),
  says: text.required(),
  step: maybe(text),
  at: moment.required(),
  seenAt: maybe(moment),
});
const notes = Joi.array().items(hourNote).required();
const call = maybe(Joi.object<StuckCall>({ about: text.required(), at: moment.required() }));
const strip = Joi.array()
  .items(
    Joi.object({
      id: text.required(),
      state: oneOf('done', 'now', 'risk', 'fault', 'none').required(),
      figure: text.required(),
    }),
  )
  .required();
const turns = Joi.array()
  .items(
    Joi.object<MatTurn>({
      id: count.required(),
      team: count.required(),
      mat: count.required(),
      beganMin: minutes.required(),
      endedMin: maybe(minutes),
      ticked: Joi.boolean().required(),
    }),
  )
  .required();
const run = Joi.object<HourRun>({
  mats: count.required(),
  turnMin: count.required(),
  asksTick: Joi.boolean().required(),
  stopped: maybe(text),
  told,
  plan: plan.required(),
});
const times = <K extends string>(key: K, value: Joi.Schema, more: Joi.SchemaMap = {}) =>
  Joi.array()
    .items(Joi.object({ step: text.required(), [key]: value.required(), ...more }))
    .required();

export const hourReplies = {
  'GET /periods/:id/sheet': Joi.object<Sheet>({
    now: moment.required(),
    hour: hour.required(),
    run: run.required(),
    steps,
    teams: Joi.array()
      .items(
        named.keys({
          robot: text.required(),
          strip,
          finding: maybe(Joi.object({ says: text.required(), mend: text.required() })),
          help: Joi.object().unknown().allow(null).required(),
          lastAt: maybe(moment),
          place: maybe(text),
          visits: times('atMin', minutes),
          provedMin: maybe(minutes),
          call,
          notes,
          pinned: maybe(count),
        }),
      )
      .required(),
    turns,
    before: times('minutes', minutes, { team: count.required() }),
  }),
  'PATCH /periods/:id/run': run,
  'POST /periods/:id/teams/:team/notes': hourNote,
  'DELETE /hour-notes/:id': null,
  'DELETE /periods/:id/teams/:team/call': null,
  'POST /periods/:id/turns': id,
  'DELETE /periods/:id/turns/:turn': null,
  'POST /periods/:id/turns/:turn/restoration': null,
  'PUT /periods/:id/teams/:team/pin': null,
  'GET /teams/:id/hour': Joi.object<TeamHour>({
    now: moment.required(),
    hour: maybe(hour),
    run: maybe(
      Joi.object({
        stopped: maybe(text),
        told,
        turnMin: count.required(),
        asksTick: Joi.boolean().required(),
      }),
    ),
    steps,
    at: maybe(Joi.object({ step: maybe(text), sinceMin: minutes.required() })),
    finding: maybe(text),
    notes,
    call,
    mat: maybe(
      Joi.alternatives().try(
        Joi.object({
          is: Joi.valid('on').required(),
          turn: count.required(),
          mat: count.required(),
          beganMin: minutes.required(),
          ticked: Joi.boolean().required(),
          cautions: Joi.array().items(text).required(),
          step: text.required(),
        }),
        Joi.object({
          is: Joi.valid('waiting').required(),
          place: count.required(),
          of: count.required(),
          fromMin: minutes.required(),
        }),
      ),
    ),
  }),
  'PUT /teams/:id/hour/call': null,
  'DELETE /teams/:id/hour/call': null,
  'PUT /teams/:id/hour/notes/:note/seen': null,
  'PUT /teams/:id/hour/turns/:turn/tick': null,
  'GET /board': Joi.object<PublicBoard>({
    now: moment.required(),
    class: text.required(),
    school: text.required(),
    hour: maybe(hour),
    run: maybe(Joi.object({ stopped: maybe(text), told, turnMin: count.required(), mats: count.required() })),
    steps,
    teams: Joi.array().items(named.keys({ strip })).required(),
    turns,
    queue: Joi.array()
      .items(Joi.object({ team: count.required(), fromMin: minutes.required() }))
      .required(),
  }),
};
