type Place = { at: string; mine: unknown; theirs: unknown };
type Words = Readonly<Record<string, string>>;

const units: Record<string, string> = { DegPerS: 'deg/s', Mm: 'mm', Cm: 'cm', Ms: 'ms', Deg: 'deg', S: 's' };

/** A field as people call it: the form's own word where it has one, else “widthMm” as “width, mm”. */
function called(field: string, words: Words): string {
  const known = Object.hasOwn(words, field) ? words[field] : undefined;
  if (known !== undefined) return known;
  const [, stem = field, unit] = /^(.*[a-z])(DegPerS|Mm|Cm|Ms|Deg|S)$/.exec(field) ?? [];
  const plain = stem.replace(/([a-z])([A-Z])/g, (_, a: string, b: string) => `${a} ${b.toLowerCase()}`);
  return unit === undefined ? plain : `${plain}, ${units[unit]}`;
}

/** A part of a list by its name where it has one, else by its place, from 1. */
function partOf(list: unknown, key: string): string {
  const name = (list as Record<string, { name?: unknown } | undefined>)[key]?.name;
  return typeof name === 'string' && name !== '' ? name : String(Number(key) + 1);
}

/** Every place in which two states differ, as a path of names. */
function differences(mine: unknown, theirs: unknown, words: Words, at = ''): Place[] {
  if (JSON.stringify(mine) === JSON.stringify(theirs)) return [];
  const both = [mine, theirs];
  if (both.every((side) => typeof side === 'object' && side !== null)) {
    const [a, b] = both as [Record<string, unknown>, Record<string, unknown>];
    return [...new Set([...Object.keys(a), ...Object.keys(b)])].flatMap((key) => {
      const name = Array.isArray(mine) ? partOf(key in a ? a : b, key) : called(key, words);
      return differences(a[key], b[key], words, at === '' ? name : `${at} › ${name}`);
    });
  }
  return [{ at, mine, theirs }];
}

const shown = (value: unknown): string => {
  if (value === undefined) return 'nothing';
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text || 'nothing';
};
const MOST = 12;

/** Two states side by side where they differ, so that a person can choose. `words` are what the page calls its fields. */
export function Sides({ mine, theirs, words = {} }: { mine: unknown; theirs: unknown; words?: Words }) {
  const all = differences(mine, theirs, words);
  return (
    <table className="w-full max-w-3xl text-left">
      <thead className="text-ink-2">
        <tr>
          <th scope="col">where</th>
          <th scope="col">mine</th>
          <th scope="col">theirs</th>
        </tr>
      </thead>
      <tbody>
        {all.slice(0, MOST).map((place) => (
          <tr key={place.at} className="border-t border-line-soft">
            <th scope="row" className="pr-4 font-semibold">
              {place.at || 'all of it'}
            </th>
            <td className="pr-4 break-words">{shown(place.mine)}</td>
            <td className="break-words">{shown(place.theirs)}</td>
          </tr>
        ))}
        {all.length > MOST ? (
          <tr>
            <td colSpan={3} className="text-ink-2">
              … and {all.length - MOST} more
            </td>
          </tr>
        ) : null}
      </tbody>
    </table>
  );
}
