import Joi from 'joi';
import { standings, type Overruling, type SkillEvidence, type Standing } from '@vigilum/core/year';
import { count, moment, oneOf, words } from '../basics.ts';
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
  teams: TeamShown[];
}

export interface YearRoutes {
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

export const yearReplies = {
  'GET /classes/:id/skills': Joi.object<ClassShown>({
    now: moment.required(),
    class: named.required(),
    works: count.required(),
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
