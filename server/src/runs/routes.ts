import { knownRobotOf, withMisreads } from '@vigilum/core/classroom';
import type { Router } from 'express';
import {
  knobFactsOf,
  lessonAt,
  stepsOf,
  tunedFault,
  type KnownRobot,
  type Lesson,
} from '@vigilum/core/lesson';
import { canRun, parseScript } from '@vigilum/core/script';
import { cannotSimulate } from '@vigilum/core/sensing';
import { knobFault, trialKnobs, withKnobs } from '@vigilum/core/tuning';
import { shareOf } from '../access/who.ts';
import { teamInLesson } from '../classes/lookup.ts';
import { one, type Queries } from '../db/database.ts';
import { Problem } from '../http/problems.ts';
import { contractRouter } from '../http/serve.ts';
import { walksOf } from '../tuning/walk.ts';
import type { Services } from '../http/services.ts';

const asStep = (lesson: Lesson, id: string | undefined): Lesson => {
  const step = stepsOf(lesson).find((one) => one.id === id);
  return step ? lessonAt(lesson, step) : lesson;
};

async function runnableText(db: Queries, work: number | null, version: number): Promise<string> {
  const [row] = await db.query<{ text: string }>(
    'select text from script_versions where work_id = $1 and version = $2',
    [work, version],
  );
  if (!row)
    throw new Problem(422, 'No such script', `There is no version ${version} of this script. Save it first.`);
  const program = parseScript(row.text);
  if (!canRun(program)) {
    const first = program.findings[0];
    throw new Problem(
      422,
      'Cannot run',
      first ? `Line ${first.line}: ${first.says} ${first.mend}` : 'There is no step yet.',
    );
  }
  return row.text;
}

/** The script with the numbers that are changed for one run; a sentence where it has none of them, or cannot run with them. */
function tunedText(written: string, known: KnownRobot, knobs: Record<string, number>): string {
  const facts = knobFactsOf(known);
  const text = withKnobs(written, knobs, facts);
  const fault = knobFault(written, facts, knobs) ?? tunedFault(text);
  if (fault) throw new Problem(422, 'Cannot run', fault, [{ field: 'knobs', says: fault }]);
  return text;
}

/** Refuses robots whose kit the simulator has no sense for. */
function simulated({ kit, build, ...known }: KnownRobot): KnownRobot {
  const why = cannotSimulate(kit, build);
  if (why) throw new Problem(422, 'Cannot be simulated', why);
  return { kit, build, ...known };
}

/**
 * Tries and proofs for the record. The page has computed them already; they are computed again here from
 * the same script, readings and seed, so that a record never rests on what a page claims.
 */
export function runRoutes(services: Services): Router {
  const { db, changes, simulations, now } = services;
  return contractRouter(services, (serve) => {
    serve(
      'POST /teams/:id/lessons/:slug/tries',
      async ({ params, body }) => {
        const found = await teamInLesson(db, params, now());
        const lesson = asStep(found.record.lesson, body.step);
        if (!lesson.course.starts.some((start) => start.name === body.start)) {
          throw new Problem(422, 'No such start', `The course has no start “${body.start}”.`, [
            { field: 'start', says: 'must be a start of the course' },
          ]);
        }
        const known = simulated(knownRobotOf(found.record));
        const written = await runnableText(db, found.work, body.scriptVersion);
        const knobs = body.knobs ?? {};
        const text = tunedText(written, known, knobs);
        const { results, ...result } = await simulations.rehearse({
          lesson,
          known,
          text,
          start: body.start,
          seed: body.seed,
        });
        const at = now();
        const row = await one<{ id: number }>(
          db,
          `insert into tries (work_id, script_version, start_name, seed, judgements, past_mm, tried_at, predicted_mm,
                          knobs, results, tuned)
       values ($1, $2, $3, $4, $5::jsonb, $6, $7, $8, $9::jsonb, $10::jsonb, $11) returning id`,
          [
            found.work,
            body.scriptVersion,
            body.start,
            body.seed,
            JSON.stringify(result.judgements),
            result.pastMm,
            at.toISOString(),
            body.predicted ?? null,
            JSON.stringify(trialKnobs(written, knobFactsOf(known), knobs)),
            JSON.stringify(results),
            text !== written,
          ],
        );
        changes.tell({ what: 'evidence', team: found.team.id, lesson: params.slug, part: 'try' });
        const { scriptVersion, start, seed } = body;
        return {
          id: row.id,
          ...result,
          try: { id: row.id, scriptVersion, start, seed, ...result, at: at.getTime() },
        };
      },
      { long: true },
    );

    serve('GET /teams/:id/lessons/:slug/walk', async ({ params }) => {
      const { work, record } = await teamInLesson(db, params, now());
      const walks = await walksOf(db, work === null ? [] : [{ work, lesson: record.lesson }]);
      return { trials: withMisreads(record, walks.get(work ?? 0) ?? []) };
    });

    serve(
      'POST /teams/:id/lessons/:slug/proofs',
      async ({ params, body, who, gone }) => {
        const found = await teamInLesson(db, params, now());
        const lesson = asStep(found.record.lesson, body.step);
        const known = simulated(knownRobotOf(found.record));
        const text = await runnableText(db, found.work, body.scriptVersion);
        const { seed: dice, runs } = body;
        const proof = await simulations.prove(
          { lesson, known, text, seed: dice, runs },
          { fair: shareOf(who), signal: gone },
        );
        const at = now();
        const row = await one<{ id: number }>(
          db,
          `insert into proofs (work_id, script_version, seed, proof, proved_at, knobs)
       values ($1, $2, $3, $4::jsonb, $5, $6::jsonb) returning id`,
          [
            found.work,
            body.scriptVersion,
            body.seed,
            JSON.stringify(proof),
            at.toISOString(),
            JSON.stringify(trialKnobs(text, knobFactsOf(known))),
          ],
        );
        changes.tell({ what: 'evidence', team: found.team.id, lesson: params.slug, part: 'proof' });
        const { scriptVersion, seed } = body;
        return { id: row.id, proof, stored: { id: row.id, scriptVersion, seed, proof, at: at.getTime() } };
      },
      { long: true },
    );
  });
}
