import Joi from 'joi';
import type { TeamEvidence } from '@vigilum/core/classroom';
import type { Trial } from '@vigilum/core/tuning';
import {
  standings,
  type Overruling,
  type Skill,
  type SkillEvidence,
  type Standing,
} from '@vigilum/core/year';
import { count, moment, oneOf, words } from '../basics.ts';
import { evidence, walkTrial } from './evidence.ts';
import { teamMembers, type TeamMember } from './members.ts';
import { maybe, named, text } from './shared.ts';

/** What a teacher says of a team’s skill against what was computed. */
export interface NewOverruling {
  standing: Standing;
  reason: string;
}
/** One team of a class’s record: all that its works say of its skills, and what was said against that. */
export interface TeamShown {
  id: number;
  name: string;
  evidence: SkillEvidence[];
  /** By skill. */
  overruled: Record<string, Overruling>;
}
export interface ClassShown {
  now: number;
  class: { id: number; name: string };
  /** Works that it was computed from. */
  works: number;
  /** Skills that teachers added. */
  own: Skill[];
  teams: TeamShown[];
}

/** One piece of a team’s work as its logbook tells it. */
export interface LogbookPiece {
  evidence: TeamEvidence;
  walk: Trial[];
  predictions: { said: number; came: number; at: number }[];
  /** What it says of the team’s skills. */
  shown: SkillEvidence[];
}
export interface Logbook {
  now: number;
  team: { id: number; name: string };
  /** Who is or was in it, in the order in which they came. */
  members: TeamMember[];
  /** Skills that teachers added. */
  own: Skill[];
  class: { id: number; name: string };
  /** Oldest first. */
  pieces: LogbookPiece[];
}

export interface YearRoutes {
  'GET /teams/:id/logbook': { reply: Logbook };
  'GET /classes/:id/skills': { reply: ClassShown };
  'PUT /teams/:id/skills/:skill': { body: NewOverruling; reply: Overruling };
  'DELETE /teams/:id/skills/:skill': { reply: undefined };
}

export const yearRequests = {
  'PUT /teams/:id/skills/:skill': Joi.object<NewOverruling>({
    standing: oneOf(...standings).required(),
    reason: words(300).required(),
  }),
};

const overruling = Joi.object<Overruling>({
  standing: oneOf(...standings).required(),
  reason: text.required(),
  by: text.required(),
  at: moment.required(),
});
const skillEvidence = Joi.object<SkillEvidence>({
  skill: text.required(),
  weight: oneOf('tried', 'once', 'firm', 'unkind').required(),
  at: moment.required(),
  says: text.required(),
  lesson: Joi.object({ slug: text.required(), title: text.required() }).required(),
  hour: maybe(count),
});

export const ownSkill = Joi.object<Skill>({
  id: text.required(),
  name: text.required(),
  shows: text.required(),
  needs: Joi.array().items(text).required(),
  lessons: Joi.array().items(text),
});

export const yearReplies = {
  'GET /teams/:id/logbook': Joi.object<Logbook>({
    now: moment.required(),
    team: named.required(),
    members: teamMembers,
    own: Joi.array().items(ownSkill).required(),
    class: named.required(),
    pieces: Joi.array()
      .items(
        Joi.object<LogbookPiece>({
          evidence: evidence.required(),
          walk: Joi.array().items(walkTrial).required(),
          predictions: Joi.array()
            .items(
              Joi.object({
                said: Joi.number().required(),
                came: Joi.number().required(),
                at: moment.required(),
              }),
            )
            .required(),
          shown: Joi.array().items(skillEvidence).required(),
        }),
      )
      .required(),
  }),
  'GET /classes/:id/skills': Joi.object<ClassShown>({
    now: moment.required(),
    class: named.required(),
    works: count.required(),
    own: Joi.array().items(ownSkill).required(),
    teams: Joi.array()
      .items(
        named.keys({
          evidence: Joi.array().items(skillEvidence).required(),
          overruled: Joi.object().pattern(Joi.string(), overruling).required(),
        }),
      )
      .required(),
  }),
  'PUT /teams/:id/skills/:skill': overruling,
  'DELETE /teams/:id/skills/:skill': null,
};
