import { useClasses } from '../data/queries.ts';
import { CheckBox } from '../ui/CheckBox.tsx';

/** Which classes a guest colleague sees. */
export function SeenClasses({
  whose,
  chosen,
  change,
}: {
  whose: string;
  chosen: readonly number[];
  change: (classes: number[]) => void;
}) {
  const classes = useClasses().data?.classes.filter(({ archived }) => !archived) ?? [];
  if (classes.length === 0)
    return <p className="text-ink-2">There is no class yet that a guest could see.</p>;
  return (
    <fieldset className="basis-full">
      <legend className="text-ink-2">{whose}</legend>
      <div className="flex flex-wrap gap-x-5">
        {classes.map(({ id, name }) => (
          <CheckBox
            key={id}
            checked={chosen.includes(id)}
            change={(on) => change(on ? [...chosen, id] : chosen.filter((one) => one !== id))}
          >
            {name}
          </CheckBox>
        ))}
      </div>
    </fieldset>
  );
}
