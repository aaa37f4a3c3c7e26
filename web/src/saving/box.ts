import { PAGE, token } from '../data/page.ts';
import { browserShelf } from './kept.ts';
import {
  courseKind,
  expectationsKind,
  kitKind,
  lessonKind,
  noteKind,
  phrasebookKind,
  trialAddition,
} from './kinds.ts';
import { Outbox } from './outbox.ts';

/** A page says that it is open by a time in the browser's storage, which other pages can read. */
const ALIVE = 'vigilum page ';
const BEAT_MS = 4000;
const GONE_MS = 15_000;

function isAlive(page: string): boolean {
  try {
    return Date.now() - Number(localStorage.getItem(ALIVE + page) ?? 0) < GONE_MS;
  } catch {
    return false;
  }
}

function beat(): void {
  try {
    localStorage.setItem(ALIVE + PAGE, String(Date.now()));
  } catch {
    // Storage is refused: nothing is shared with other pages then.
  }
}

/** The browser’s own database of what is not stored yet. */
export const shelf = browserShelf();

/** Takes up what is no document of this folder: scripts know their own way. */
type Revive = (record: { is: string }) => Promise<void>;
let reviveOther: Revive = () => Promise.resolve();

export const outbox = new Outbox({
  shelf,
  page: PAGE,
  isAlive,
  token,
  now: () => Date.now(),
  setTimer: (work, ms) => window.setTimeout(work, ms),
  clearTimer: (timer) => window.clearTimeout(timer),
  revive: (record) => reviveOther(record),
});
outbox.learn(noteKind, lessonKind, expectationsKind, kitKind, courseKind, phrasebookKind);
outbox.learnAdditions(trialAddition);

/** Takes up what is not stored yet, and sends it whenever the server may answer again. Settles when all is taken up. */
export function startOutbox(revive: Revive): Promise<void> {
  reviveOther = revive;
  beat();
  window.setInterval(beat, BEAT_MS);
  window.addEventListener('online', () => void outbox.back());
  const leave = () => {
    outbox.leave();
    // Last of all: what was kept just now has not reached the database.
    shelf.leave();
  };
  window.addEventListener('pagehide', leave);
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'hidden') leave();
  });
  const taken = outbox.takeUp();
  void taken.then(() => outbox.back());
  return taken;
}
