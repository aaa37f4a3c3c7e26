import type { useSubject } from './useSubject.ts';

/** Which script on which robot a tool works with. */
export function SubjectChoice({ options, chosen, choose }: ReturnType<typeof useSubject>) {
  return (
    <label className="flex max-w-full min-w-0 flex-wrap items-center gap-2">
      <span className="text-ink-2">script</span>
      <select
        className="input h-11 w-auto max-w-full"
        value={chosen}
        onChange={(event) => choose(event.target.value)}
      >
        {options.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
