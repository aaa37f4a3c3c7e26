import { countOf } from '@vigilum/core/quantity';
import type { Kit } from '@vigilum/core/sensing';
import type { RobotEntry, RobotsFor } from '@vigilum/contract/types';

/** One way for a class to come to its robots. */
export interface RobotsChoice {
  key: string;
  /** As a list shows it. */
  says: string;
  robots: RobotsFor;
  /** Robots that are there already. */
  there: number;
}

type Robot = Pick<RobotEntry, 'cupboard' | 'archived'> & { kit: Pick<Kit, 'slug'> };

/** The cupboards that a kit’s robots are in, each with how many are not put away; spelt as the first of them says it. */
export function cupboardsOf(robots: readonly Robot[], kit: string): { name: string; robots: number }[] {
  const found = new Map<string, { name: string; robots: number }>();
  for (const { kit: of, cupboard, archived } of robots) {
    if (of.slug !== kit || archived) continue;
    const key = cupboard.toLowerCase();
    const known = found.get(key) ?? { name: cupboard, robots: 0 };
    found.set(key, { ...known, robots: known.robots + 1 });
  }
  return [...found.values()];
}

/** Every way for a class to come to robots: those of each kit in each cupboard, shared with other classes, then new ones of each kit. */
export function robotsChoices(kits: readonly Kit[], robots: readonly Robot[]): RobotsChoice[] {
  const there = kits.flatMap((kit) =>
    cupboardsOf(robots, kit.slug).map(({ name, robots: n }): RobotsChoice => ({
      key: `there ${kit.slug} ${name}`,
      says: `${kit.name}${name ? ` in ${name}` : ''}: the ${n} that ${n === 1 ? 'is' : 'are'} there`,
      robots: { kit: kit.slug, cupboard: name, take: 'those there' },
      there: n,
    })),
  );
  const fresh = kits.map(({ slug, name }): RobotsChoice => ({
    key: `new ${slug}`,
    says: `${name}: new ones`,
    robots: { kit: slug, cupboard: '', take: 'new' },
    there: 0,
  }));
  return [...there, ...fresh];
}

/** What comes of a choice for so many teams. */
export function robotsSaid({ robots, there }: RobotsChoice, kit: string, teams: number): string {
  if (robots.take === 'new')
    return teams === 0
      ? `Each team gets a new ${kit}.`
      : `${countOf(teams, `new ${kit} robot`)}, one for each team.`;
  const missing = teams - there;
  if (missing > 0)
    return `${there} ${there === 1 ? 'is' : 'are'} there, ${countOf(missing, `new ${kit} robot`)} ${missing === 1 ? 'is' : 'are'} added. Other classes go on using theirs.`;
  return 'Each team gets one of them; those that no other class has come first. Classes may share robots: each hour keeps its own readings.';
}
