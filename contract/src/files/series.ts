import Joi from 'joi';
import type { Lesson } from '@vigilum/core/lesson';
import type { Kit } from '@vigilum/core/sensing';
import type { Skill } from '@vigilum/core/year';
import { nameWords, slug, words, wordsOrNone } from '../basics.ts';
import { oneOf } from '../shape.ts';
import { kitSchema } from './kit.ts';
import { lessonSchema } from './lesson.ts';

/** A series with all that its lessons take, to be handed on. */
export interface SeriesFile {
  format: 'vigilum-series';
  version: 1;
  name: string;
  aim: string;
  /** The school that it comes from; '' where it is not to be told. */
  from: string;
  /** In their order. */
  lessons: Lesson[];
  /** Skills that a teacher added and that these lessons give. */
  skills: Skill[];
  kits: Kit[];
}

export const ownSkillSchema = Joi.object<Skill>({
  id: Joi.string()
    .pattern(/^own-[a-z0-9-]{1,36}$/, 'own- and a short name')
    .required(),
  name: nameWords(60).required(),
  shows: words(300).required(),
  needs: Joi.array().items(slug(40)).max(20).unique().required(),
  lessons: Joi.array().items(slug(60)).max(60).unique(),
});

/** The shape of a series file; what a lesson’s own parts ask of each other is checked with the lesson. */
export const seriesFileSchema = Joi.object<SeriesFile>({
  format: oneOf('vigilum-series').required(),
  version: oneOf(1).required(),
  name: nameWords(80).required(),
  aim: wordsOrNone(400).required(),
  from: wordsOrNone(120).required(),
  lessons: Joi.array().items(lessonSchema).min(1).max(40).required(),
  skills: Joi.array().items(ownSkillSchema).max(40).required(),
  kits: Joi.array().items(kitSchema).max(12).required(),
});
