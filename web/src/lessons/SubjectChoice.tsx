import { Labelled } from '../ui/fields.tsx';
import type { useSubject } from './useSubject.ts';

/** Which script on which robot a tool works with. */
export function SubjectChoice({ options, chosen, choose }: ReturnType<typeof useSubject>) {
  return (
    <Labelled beside label="script" className="max-w-full min-w-0 flex-wrap">
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
    </Labelled>
  );
}
