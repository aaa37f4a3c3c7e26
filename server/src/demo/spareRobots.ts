import { asNumber, type Kit, type Sample, type RobotBuild, type SensorKind } from '@vigilum/core/sensing';
import { one, type Queries } from '../db/database.ts';
import { StandInRobot, type StandInCharacter } from '../devices/standInRobot.ts';
import { flat } from '../readings/store.ts';
import { roomOf } from '../robots/store.ts';
import { cobbleBuild, plainCharacter } from '../starter/build.ts';
import { cobble } from '../starter/cobble.ts';
import { skiff, skiffBuild } from '../starter/skiff.ts';
import { Measured } from './measure.ts';

interface Spare {
  name: string;
  kit: Kit;
  build: RobotBuild;
  character: Partial<StandInCharacter>;
  /** What the teacher read off it this morning. */
  read: (robot: Measured, keep: Keep) => Promise<void>;
}

/** Puts readings on record. */
interface Keep {
  set(socket: string, kind: SensorKind, surface: string, samples: Sample[], truth?: number): Promise<void>;
  recording(
    socket: string,
    kind: SensorKind,
    purpose: 'sweep' | 'touch',
    periodMs: number,
    samples: Sample[],
  ): Promise<void>;
  check(socket: string, kind: SensorKind, says: string, driftPerS: number | null): Promise<void>;
}

/** The workshop's own robot: its floor eye set to rgb, every sensor read once. */
const workshop: Spare = {
  name: 'Cobble 9, workshop',
  kit: cobble,
  build: {
    ...cobbleBuild,
    quirks: ['reads distances a little long'],
    fittings: cobbleBuild.fittings.map((f) => (f.socket === 'K3' ? { ...f, mode: 'rgb' as const } : f)),
  },
  character: { soundScale: 1.025, headingDrift: 0.04, bouncing: true },
  async read(robot, keep) {
    for (const card of ['red card', 'orange card', 'yellow card', 'green card', 'blue card']) {
      robot.hand({ put: 'over', surface: card });
      await keep.set('K3', 'rgb', card, robot.samples('K3', 20));
    }
    for (const cm of [8, 15, 30, 60, 100, 150, 190]) {
      robot.hand({ put: 'front', mm: cm * 10 });
      await keep.set('K2', 'distance', 'against the ruler', robot.samples('K2', 10), cm);
    }
    for (const deg of [90, -90, 180]) {
      const [before] = robot.samples('K5', 1);
      robot.hand({ put: 'turn', deg });
      const after = robot.samples('K5', 160).at(-1);
      await keep.set('K5', 'heading', 'turned by hand', [asNumber(after!)! - asNumber(before!)!], deg);
    }
    const bumps = robot.presses('K1', 600, [400, 1500, 2600, 4200]);
    await keep.recording('K1', 'touch', 'touch', 10, bumps);
    await keep.check('K5', 'heading', 'The heading keeps still: 0.2° in 5 s.', 0.04);
    await keep.check('K1', 'touch', 'It reacts: from 0 to 1.', null);
  },
};

/** A Skiff: another kit for the same lessons, where something must stand in. */
const spareSkiff = (n: number): Spare => ({
  name: `Skiff ${n}`,
  kit: skiff,
  build: skiffBuild,
  character: n === 2 ? { gain: 0.93 } : {},
  async read(robot, keep) {
    for (const surface of ['tide line', 'quay boards', 'red card']) {
      robot.hand({ put: 'over', surface });
      await keep.set('S-b', 'light', surface, robot.samples('S-b', 20));
    }
    if (n !== 1) return;
    robot.hand({ put: 'front', mm: null });
    await keep.set('S-c', 'proximity', 'nothing in front', robot.samples('S-c', 20));
    robot.hand({ put: 'front', mm: 150 });
    await keep.set('S-c', 'proximity', 'wall at the wanted gap', robot.samples('S-c', 20));
  },
});

/** Robots that no team has: for the teacher to try things with, and to show what another kit can do. */
export async function seedSpareRobots(tx: Queries, ago: (minutes: number) => string): Promise<void> {
  const room = await roomOf(tx);
  for (const [index, { name, kit, build, character, read }] of [
    workshop,
    spareSkiff(1),
    spareSkiff(2),
  ].entries()) {
    const nature = { ...plainCharacter, ...character };
    const { id } = await one<{ id: number }>(
      tx,
      `insert into robots (kit_id, name, build, stand_in, cupboard)
       select id, $2, $3::jsonb, $4::jsonb, 'workshop' from kits where slug = $1 returning id`,
      [kit.slug, name, JSON.stringify(build), JSON.stringify(nature)],
    );
    const standIn = new StandInRobot({ name, kit, build, character: nature, ...room, seed: 900 + index });
    await read(new Measured(standIn), {
      async set(socket, kind, surface, looks, truth) {
        const { channels, readings } = flat(looks, kind);
        await tx.query(
          `insert into sample_sets (robot_id, socket, kind, surface, readings, channels, truth, light_note, taken_at)
           values ($1, $2, $3, $4, $5::double precision[], $6, $7, 'workshop lamps', $8)`,
          [id, socket, kind, surface, readings, channels, truth ?? null, ago(95)],
        );
      },
      async recording(socket, kind, purpose, periodMs, looks) {
        await tx.query(
          `insert into recordings (robot_id, socket, kind, purpose, period_ms, readings, taken_at)
           values ($1, $2, $3, $4, $5, $6::double precision[], $7)`,
          [id, socket, kind, purpose, periodMs, flat(looks, kind).readings, ago(92)],
        );
      },
      async check(socket, kind, says, driftPerS) {
        await tx.query(
          `insert into wire_checks (robot_id, socket, kind, reacts, says, drift_per_s, checked_at)
           values ($1, $2, $3, true, $4, $5, $6)`,
          [id, socket, kind, says, driftPerS, ago(97)],
        );
      },
    });
  }
}
