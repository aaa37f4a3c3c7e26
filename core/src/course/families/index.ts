import type { CourseFamily } from './family.ts';
import * as lines from './lines.ts';
import * as places from './places.ts';

export {
  boards,
  buildCourse,
  darkTape,
  greenCard,
  redCard,
  type CourseFamily,
  type CourseParameter,
} from './family.ts';

/** Every family of courses, in the order of the lessons. */
export const courseFamilies: readonly CourseFamily[] = [
  places.openWaterFamily,
  places.boathouseFamily,
  places.quayFamily,
  lines.stopLineFamily,
  lines.lanesFamily,
  lines.channelFamily,
  places.pierFamily,
  places.forkFamily,
  places.basinFamily,
  lines.fairwayFamily,
  lines.buoyFamily,
  places.islandFamily,
  places.beaconFamily,
  lines.cargoFamily,
];

/** A family by its name; throws for one that does not exist: a slip of the programmer. */
export function familyOf(id: string): CourseFamily {
  const family = courseFamilies.find((f) => f.id === id);
  if (!family) throw new RangeError(`There is no family of courses “${id}”.`);
  return family;
}
