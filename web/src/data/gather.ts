/**
 * Gathers what comes quickly one after the other and hands it on together: at most one piece of work is under way, and
 * what comes meanwhile waits for it. So forty changes in a moment are one or two questions to the server, not forty.
 */
export function gathering<Item>(
  work: (items: Item[]) => Promise<unknown>,
  { windowMs, setTimer }: { windowMs: number; setTimer: (run: () => void, ms: number) => unknown },
): (item: Item) => void {
  let waiting: Item[] = [];
  let planned = false;
  let running = false;
  const plan = () => {
    if (planned || running || waiting.length === 0) return;
    planned = true;
    setTimer(() => {
      planned = false;
      running = true;
      const items = waiting;
      waiting = [];
      const done = () => {
        running = false;
        plan();
      };
      work(items).then(done, done);
    }, windowMs);
  };
  return (item) => {
    waiting.push(item);
    plan();
  };
}
