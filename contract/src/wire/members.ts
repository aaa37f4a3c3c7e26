import Joi from 'joi';
import { count, moment } from '../basics.ts';
import { maybe, text } from './shared.ts';

/** Somebody in a team, by a nickname. */
export interface TeamMember {
  id: number;
  nickname: string;
  cameAt: number;
  leftAt: number | null;
}

export const teamMembers = Joi.array()
  .items(
    Joi.object<TeamMember>({
      id: count.required(),
      nickname: text.required(),
      cameAt: moment.required(),
      leftAt: maybe(moment),
    }),
  )
  .required();
