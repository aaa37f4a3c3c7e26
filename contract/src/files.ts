import type Joi from 'joi';
import { jsonSchemaOf, type JsonSchema } from './jsonSchema.ts';
import { courseSchema } from './files/course.ts';
import { buildSchema, kitSchema } from './files/kit.ts';
import { lessonFileSchema, lessonSchema } from './files/lesson.ts';
import { phrasebookSchema } from './files/phrasebook.ts';
import { reportSchema } from './files/report.ts';
import { runLogSchema } from './files/runLog.ts';
import { seriesFileSchema } from './files/series.ts';

/** The shapes of everything that is exchanged as a file, and what to say of each. */
export const fileSchemas = {
  lesson: {
    schema: lessonFileSchema,
    says: 'A sensor lesson: course, steps, model answer, expectations, twist. Lengths in mm, angles in degrees (bearing 0 up the mat, clockwise), times in s. Ids are unlike each other, tracks follow lines of the marks, and what an expectation names is on the course.',
  },
  course: {
    schema: courseSchema,
    says: 'A mat with what stands on it. Lengths in mm from the lower left corner, bearings in degrees (0 up the mat, clockwise), times in s. Ids are unlike each other, and a track follows a stripe, path or arc of the marks.',
  },
  kit: {
    schema: kitSchema,
    says: 'A classroom robotics kit: its sockets, sensors with their modes, and how its motors answer. What a sensor returns for “no reading” is told by noReading; it is never a distance.',
  },
  'robot-build': {
    schema: buildSchema,
    says: 'A robot as it is built: measures in mm and what is plugged in where.',
  },
  phrasebook: {
    schema: phrasebookSchema,
    says: 'How the words of a kit’s text language are said in the step script. A $name in a pattern stands for whatever is typed there and may be used in what it says.',
  },
  'run-log': {
    schema: runLogSchema,
    says: 'What a robot wrote down of one run: times in s, going forward, and signals with as many values as there are times; null where nothing was read.',
  },
  series: {
    schema: seriesFileSchema,
    says: 'Lessons in an order with all that they take: the lessons themselves, skills that a teacher added, and the kits of their robots. Lengths in mm, angles in degrees, times in s.',
  },
  report: {
    schema: reportSchema,
    says: 'What a class did and has shown in a span of time, computed from the evidence of its lesson hours. Times in ms since 1970 (UTC), shares from 0 to 1 with their 95 % interval.',
  },
} satisfies Record<string, { schema: Joi.Schema; says: string }>;

export type FileKind = keyof typeof fileSchemas;
export const fileKinds = Object.keys(fileSchemas) as FileKind[];

/** The published JSON Schema of a kind of file. */
export const publishedSchema = (kind: FileKind): JsonSchema =>
  jsonSchemaOf(
    fileSchemas[kind].schema,
    `${kind}.schema.json`,
    `Vigilum ${kind.replace('-', ' ')}`,
    fileSchemas[kind].says,
  );

export {
  buildSchema,
  courseSchema,
  kitSchema,
  lessonFileSchema,
  lessonSchema,
  phrasebookSchema,
  reportSchema,
  runLogSchema,
  seriesFileSchema,
};
export type { SeriesFile } from './files/series.ts';
export { conditionsSchema, expectationsSchema, proofSchema } from './files/lesson.ts';
export { runLogFault, type RunLog } from './files/runLog.ts';
