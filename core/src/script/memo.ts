/** A function of one object that works each object out once and remembers it as long as the object lives. */
export function memo<K extends object, V>(work: (key: K) => V): (key: K) => V {
  const kept = new WeakMap<K, { value: V }>();
  return (key) => {
    let found = kept.get(key);
    if (!found) {
      found = { value: work(key) };
      kept.set(key, found);
    }
    return found.value;
  };
}
