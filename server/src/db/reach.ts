import { AsyncLocalStorage } from 'node:async_hooks';

/** Which rows a statement may see: those of one school, none, or, for the server’s own work, all. */
export type Reach = number | 'none' | 'all';

const reaches = new AsyncLocalStorage<Reach>();

/** The reach of what is being done: a request's own, `all` where no request is being answered. */
export const reachNow = (): Reach => reaches.getStore() ?? 'all';

/** Does something for one school: rows of others are neither seen nor written, and new ones are its own. */
export const inSchool = <T>(school: number, work: () => T): T => reaches.run(school, work);

/** Does something for nobody yet known: no row of any school is seen. */
export const nowhere = <T>(work: () => T): T => reaches.run('none', work);

/**
 * Does something for the server itself, above all schools: finds out where somebody belongs, or looks after what all of them share.
 * Nothing that it finds may be shown to a school but what is its own.
 */
export const everywhere = <T>(work: () => T): T => reaches.run('all', work);
