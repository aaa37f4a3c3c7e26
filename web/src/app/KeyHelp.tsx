import { Dialog } from '../ui/Dialog.tsx';

const groups: { where: string; rows: [string, string][] }[] = [
  {
    where: 'Everywhere',
    rows: [
      ['?', 'this list'],
      ['1 – 7', 'go to a stage of the lesson'],
      ['W', 'what the open step asks for'],
    ],
  },
  {
    where: 'Lesson builder',
    rows: [
      ['↑ ↓', 'choose a step'],
      ['Alt ↑ ↓', 'move it up or down'],
    ],
  },
  { where: 'Read', rows: [['Space', 'take readings; start or end a sweep or a recording']] },
  {
    where: 'Decide',
    rows: [
      ['Enter', 'use the chosen threshold'],
      ['↑ ↓', 'move an own choice by one'],
    ],
  },
  {
    where: 'Script',
    rows: [
      ['Ctrl S', 'save now'],
      ['Ctrl Z', 'undo'],
      ['Ctrl Y', 'redo'],
      ['Ctrl Space', 'complete a word'],
      ['Esc, then Tab', 'leave the editor'],
    ],
  },
  {
    where: 'Script, as steps',
    rows: [
      ['↑ ↓', 'choose a step'],
      ['Alt ↑ ↓', 'move it up or down'],
      ['Alt → ←', 'into the block above, out of its block'],
      ['A', 'add a step below'],
      ['T', 'change it as text'],
      ['R', 'put it in a repeat'],
      ['Delete', 'remove it'],
    ],
  },
  {
    where: 'Try and Prove',
    rows: [
      ['R', 'run'],
      ['Space', 'play or pause'],
      ['← →', 'one step back or on'],
      ['P', 'prove'],
    ],
  },
];

/** The list of shortcuts, over the page. */
export function KeyHelp({ close }: { close: () => void }) {
  return (
    <Dialog title="Keys" close={close} width="w-[38rem]">
      <div className="grid gap-4 sm:grid-cols-2">
        {groups.map(({ where, rows }) => (
          <section key={where}>
            <h3 className="mb-1 font-bold">{where}</h3>
            <dl className="grid grid-cols-[auto_1fr] items-center gap-x-3 gap-y-1.5">
              {rows.map(([key, does]) => (
                <div key={key} className="contents">
                  <dt>
                    <kbd className="kbd">{key}</kbd>
                  </dt>
                  <dd>{does}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </div>
    </Dialog>
  );
}
