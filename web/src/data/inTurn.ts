/**
 * Does one piece of work at a time, in the order it was asked for: two requests that are under way together may arrive the other
 * way round. What still waits when something comes that replaces it is not done; it ends as that one does.
 */
export function inTurn<Item, Result>(
  work: (item: Item) => Promise<Result>,
  replaces: (newer: Item, older: Item) => boolean,
): (item: Item) => Promise<Result> {
  let last: { item: Item; begun: boolean; ends: Promise<Result> } | null = null;
  return (item) => {
    const before = last;
    if (before && !before.begun && replaces(item, before.item)) {
      before.item = item;
      return before.ends;
    }
    const own = { item, begun: false, ends: Promise.resolve() as Promise<unknown> as Promise<Result> };
    const begin = () => {
      own.begun = true;
      return work(own.item);
    };
    own.ends = before ? before.ends.then(begin, begin) : begin();
    last = own;
    return own.ends;
  };
}
