import { describe, expect, it } from '@jest/globals';
import { preflight, preflightGrade, sensorOf } from '@vigilum/core/sensing';
import { canRun, parseScript } from '@vigilum/core/script';
import { review } from '@vigilum/core/review';
import { narrowestLine } from '@vigilum/core/lesson';
import { migrate } from '../db/migrate.ts';
import { seedDemo } from '../demo/seed.ts';
import { cobbleBuild } from '../starter/build.ts';
import { cobble } from '../starter/cobble.ts';
import { addStarter } from '../starter/starter.ts';
import { tideLine } from '../starter/tideLine.ts';
import { demoDatabase, emptyDatabase, NOW } from './harness.ts';

describe('the kit and the lesson that ship with Vigilum', () => {
  it('fit each other: the kit out of the box can do the lesson', () => {
    expect(preflightGrade(preflight(cobble, cobbleBuild, tideLine.need))).toBe('ok');
    for (const fitting of cobbleBuild.fittings) {
      expect(cobble.sockets).toContainEqual(
        expect.objectContaining({ name: fitting.socket, takes: 'sensor' }),
      );
      expect(sensorOf(cobble, fitting)?.kind).toBe(fitting.mode);
    }
  });

  it('reads surfaces that lie on the course, with their own reflectance', () => {
    const surfaces = [tideLine.course.base, ...tideLine.course.marks.map((mark) => mark.surface)];
    for (const task of tideLine.read.tasks) {
      expect(surfaces).toContainEqual({ name: task.surface, reflectance: task.reflectance });
    }
  });

  it('asks only for landmarks and starts that the course has', () => {
    const ids = tideLine.course.landmarks.map((landmark) => landmark.id);
    expect(ids).toContain(tideLine.floor.landmark);
    for (const expectation of tideLine.expectations) {
      if (expectation.kind === 'stops past') expect(ids).toContain(expectation.landmark);
    }
    expect(tideLine.course.starts.map((start) => start.name)).toEqual(['A', 'B', 'C']);
  });

  it('has a model answer against which the review says nothing', () => {
    const program = parseScript(tideLine.modelScript);
    expect(canRun(program)).toBe(true);
    const context = {
      kit: cobble,
      build: cobbleBuild,
      thresholds: { K3: 48 },
      surfaces: { K3: { low: { name: 'tide line', mean: 21 }, high: { name: 'quay boards', mean: 76 } } },
      lineWidthMm: narrowestLine(tideLine),
    };
    expect(review(program, context)).toEqual([]);
    expect(parseScript(tideLine.startScript).findings).toEqual([]);
  });

  it('is added once, brings shipped lessons up to date, and leaves alone what a teacher has changed', async () => {
    const db = await emptyDatabase();
    await migrate(db);
    await addStarter(db);
    await db.query(`update lessons set title = 'Old'`);
    await db.query(`update lessons set title = 'Mine', changed_at = now() where slug = 'tide-line'`);
    await db.query(`update kits set name = 'Our Cobble' where slug = 'cobble'`);
    await addStarter(db);
    const titles = (await db.query<{ title: string }>('select title from lessons order by id')).map(
      ({ title }) => title,
    );
    expect(titles).toHaveLength(16);
    expect(titles).toContain('Mine');
    expect(titles).not.toContain('Old');
    expect(await db.query(`select name from kits where slug = 'cobble'`)).toEqual([{ name: 'Our Cobble' }]);
    await db.close();
  });
});

describe('the demo', () => {
  it('forgets what was proved of a lesson that it brings up to date, and of no other', async () => {
    const db = await demoDatabase();
    await db.query(`update lessons set model_proof = '{"verdict":"proved"}'::jsonb`);
    await db.query(
      `update lessons set definition = jsonb_set(definition, '{timeLimitS}', '3') where slug = 'tide-line'`,
    );
    await addStarter(db);
    const rows = await db.query<{ slug: string }>('select slug from lessons where model_proof is null');
    expect(rows).toEqual([{ slug: 'tide-line' }]);
    await db.close();
  });

  it('is the same every time it is made', async () => {
    const made = async () => {
      const db = await emptyDatabase();
      await migrate(db);
      await seedDemo(db, NOW);
      const rows = await Promise.all(
        [
          'select readings from sample_sets order by id',
          'select value, method from thresholds order by id',
          'select proof from proofs order by id',
          'select past_mm from tries order by id',
        ].map((sql) => db.query(sql)),
      );
      await db.close();
      return rows;
    };
    expect(await made()).toEqual(await made());
  });
});
