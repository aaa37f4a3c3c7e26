import { Search } from 'lucide-react';
import { useMemo, useState } from 'react';
import { type Program } from '@vigilum/core/script';
import {
  stepTemplates,
  templateGroups,
  type KnownRobotFacts,
  type StepTemplate,
} from '@vigilum/core/editing';
import { Dialog } from '../../ui/Dialog.tsx';

/** The steps there are, as sentences to choose from; those that this robot can do, with its own names. */
export function AddStep({
  program,
  robot,
  where,
  add,
  close,
}: {
  program: Program;
  robot: KnownRobotFacts;
  /** Where the new step goes, in words. */
  where: string;
  add: (template: StepTemplate) => void;
  close: () => void;
}) {
  const [wanted, setWanted] = useState('');
  const all = useMemo(() => stepTemplates(program, robot), [program, robot]);
  const word = wanted.trim().toLowerCase();
  const found = all.filter(({ code, means }) => `${code} ${means}`.toLowerCase().includes(word));
  return (
    <Dialog
      title={`Add a step ${where}`}
      close={close}
      width="w-[56rem]"
      aside={
        <label className="flex items-center gap-2">
          <Search size={18} aria-hidden="true" />
          <input
            className="input w-56"
            aria-label="Find a step"
            placeholder="find a step"
            value={wanted}
            onChange={({ target }) => setWanted(target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Enter' && found[0]) {
                event.preventDefault();
                add(found[0]);
              }
            }}
          />
        </label>
      }
    >
      {found.length === 0 ? <p className="mt-4">No step has “{wanted}” in it.</p> : null}
      <div className="gap-x-6 md:columns-2">
        {templateGroups.map((group) => {
          const list = found.filter((template) => template.group === group);
          if (list.length === 0) return null;
          return (
            <section key={group} className="mb-4 break-inside-avoid">
              <h3 className="mb-1 font-bold text-ink-2">{group}</h3>
              <ul>
                {list.map((template) => (
                  <li key={template.code}>
                    <button
                      type="button"
                      className="flex min-h-11 w-full flex-col justify-center rounded-md px-2 py-1 text-left hover:bg-sea-soft"
                      title={template.means}
                      onClick={() => add(template)}
                    >
                      <span className="font-mono font-semibold">
                        {template.code.replace(/\nelse\nend$/, ' … else … end').replace(/\nend$/, ' … end')}
                      </span>
                      {template.declare ? (
                        <span className="text-sm text-ink-2">and at the top: {template.declare}</span>
                      ) : null}
                    </button>
                  </li>
                ))}
              </ul>
            </section>
          );
        })}
      </div>
    </Dialog>
  );
}
