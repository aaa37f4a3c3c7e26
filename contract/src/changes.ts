/** What a page hears when something was changed: what, whose, and which revision it has now. */
export type ChangeOf =
  | {
      what: 'evidence';
      /** Id of the team and slug of the lesson. */
      team: number;
      lesson: string;
      part: 'notes' | 'place' | 'script' | 'version' | 'try' | 'proof' | 'trial' | 'log';
      /** The new revision of what was changed, where it has one: of a script, of a note. */
      of?: number;
    }
  | {
      what: 'robot';
      robot: number;
      /** The teams that drive it. */
      teams: number[];
      part: 'readings' | 'threshold' | 'check' | 'build' | 'braking' | 'trials';
    }
  | {
      what: 'hour';
      class: number;
      period: number;
      /** The team that it is for; null for all. */
      team: number | null;
    }
  | { what: 'class'; class: number; part: 'teams' | 'period' | 'variants' | 'skills' | 'homework' }
  | { what: 'plan' }
  | { what: 'lesson'; lesson: string; of: number }
  | { what: 'kit'; kit: string }
  | { what: 'phrasebook'; kit: string }
  | { what: 'course'; course: number };

export type Change = ChangeOf & {
  /** Goes up by one with every change; the feed can be taken up again from any of the last few hundred. */
  revision: number;
  /** The page that made it, as it named itself; null for others than pages. */
  by: string | null;
};

/** Header in which a page names itself, so that it need not hear of what it did. */
export const PAGE_HEADER = 'x-vigilum-page';
/** Header with the key of a write: a write that comes twice with one key is done once. */
export const KEY_HEADER = 'idempotency-key';
/** What both headers may hold. */
export const TOKEN = /^[A-Za-z0-9_-]{8,64}$/;
