import type { Lesson } from '@vigilum/core/lesson';
import type { Kit, RobotBuild } from '@vigilum/core/sensing';
import { one, type Queries } from '../db/database.ts';
import type { StandInCharacter, StandInConfig } from '../devices/standInRobot.ts';
import { cards } from '../starter/cards.ts';

export interface RobotRow {
  id: number;
  name: string;
  kit: Kit;
  build: RobotBuild;
  stand_in: StandInCharacter | null;
}

/** A robot that is known to exist. */
export async function robotRow(db: Queries, id: number): Promise<RobotRow> {
  return one<RobotRow>(
    db,
    `select r.id, r.name, k.definition as kit, r.build, r.stand_in
       from robots r join kits k on k.id = r.kit_id where r.id = $1`,
    [id],
  );
}

/** What the stand-in of a robot is started with; null for a robot that has none. */
export async function standInConfig(db: Queries, row: RobotRow): Promise<StandInConfig | null> {
  if (!row.stand_in) return null;
  const lessons = await db.query<{ definition: Lesson }>('select definition from lessons order by id');
  const floors = lessons.flatMap(({ definition: { read, course } }) => {
    const painted = [course.base, ...course.marks.map((mark) => mark.surface)];
    return read.tasks.map(
      ({ surface, reflectance }) =>
        painted.find(({ name }) => name === surface) ?? { name: surface, reflectance },
    );
  });
  // A robot that nobody has moved stands over the last of these.
  const surfaces = new Map([...cards, ...floors].map((surface) => [surface.name, surface]));
  return {
    name: row.name,
    kit: row.kit,
    build: row.build,
    character: row.stand_in,
    surfaces: [...surfaces.values()],
    course: lessons[0]?.definition.course ?? blankMat,
    seed: row.id * 1013,
  };
}

const blankMat = {
  name: 'table',
  widthMm: 1000,
  heightMm: 700,
  base: { name: 'table', reflectance: 0.62 },
  marks: [],
  starts: [],
  landmarks: [],
};
