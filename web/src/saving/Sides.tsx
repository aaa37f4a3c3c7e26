type Place = { at: string; mine: unknown; theirs: unknown };

/** Every place in which two states differ, as a path of names. */
function differences(mine: unknown, theirs: unknown, at = ''): Place[] {
  if (JSON.stringify(mine) === JSON.stringify(theirs)) return [];
  const both = [mine, theirs];
  if (both.every((side) => typeof side === 'object' && side !== null)) {
    const [a, b] = both as [Record<string, unknown>, Record<string, unknown>];
    return [...new Set([...Object.keys(a), ...Object.keys(b)])].flatMap((key) =>
      differences(a[key], b[key], at === '' ? key : `${at} › ${/^\d+$/.test(key) ? Number(key) + 1 : key}`),
    );
  }
  return [{ at, mine, theirs }];
}

const shown = (value: unknown): string => {
  if (value === undefined) return 'nothing';
  const text = typeof value === 'string' ? value : JSON.stringify(value);
  return text.length > 60 ? `${text.slice(0, 57)}…` : text || 'nothing';
};
const MOST = 12;

/** Two states side by side where they differ, so that a person can choose. */
export function Sides({ mine, theirs }: { mine: unknown; theirs: unknown }) {
  const all = differences(mine, theirs);
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
