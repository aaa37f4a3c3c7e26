import { shapes } from '@vigilum/core/script';
import { meanings } from '@vigilum/core/editing';

/** Every step there is, with what it reads like and what it does. */
export function WordList() {
  return (
    <details className="mt-3">
      <summary className="min-h-11 cursor-pointer py-2.5 font-bold">Words you can use</summary>
      <dl className="max-h-64 gap-x-6 overflow-y-auto sm:columns-2">
        {Object.entries(shapes).map(([word, list]) => (
          <div key={word} className="mb-2 break-inside-avoid">
            <dt className="font-mono text-sm leading-6 font-semibold">{list.join(' · ')}</dt>
            <dd className="text-sm text-ink-2">{meanings[word]}</dd>
          </div>
        ))}
      </dl>
    </details>
  );
}
