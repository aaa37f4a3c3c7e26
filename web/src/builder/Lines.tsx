import { Plus } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { Button } from '../ui/Button.tsx';
import { RemoveButton } from '../ui/RemoveButton.tsx';

/** A short list of sentences, one field each: hints, cautions, skills. */
export function Lines({
  label,
  one,
  lines,
  change,
  most = 12,
}: {
  label: string;
  /** What one of them is: “hint”. */
  one: string;
  lines: readonly string[];
  change: (lines: string[], field: string) => void;
  most?: number;
}) {
  const list = useRef<HTMLOListElement>(null);
  const added = useRef(false);
  useEffect(() => {
    if (!added.current) return;
    added.current = false;
    list.current?.querySelector<HTMLTextAreaElement>('li:last-child textarea')?.focus();
  });
  return (
    <fieldset className="flex min-w-0 flex-col gap-1">
      <legend className="text-ink-2">{label}</legend>
      <ol ref={list} className="flex flex-col gap-1">
        {lines.map((line, i) => (
          <li key={i} className="flex items-center gap-1">
            <textarea
              className="input field-sizing-content h-auto min-h-11 min-w-0 flex-1 py-2 leading-6 whitespace-pre-wrap"
              rows={1}
              aria-label={`${one} ${i + 1}`}
              maxLength={300}
              value={line}
              onChange={(event) =>
                change(
                  lines.map((other, j) => (j === i ? event.target.value.replaceAll('\n', ' ') : other)),
                  `${one} ${i}`,
                )
              }
            />
            <RemoveButton
              title={`Take ${one} ${i + 1} out`}
              onClick={() =>
                change(
                  lines.filter((_, j) => j !== i),
                  '',
                )
              }
            />
          </li>
        ))}
      </ol>
      {lines.length < most ? (
        <Button
          icon={Plus}
          className="w-fit"
          onClick={() => {
            added.current = true;
            change([...lines, ''], '');
          }}
        >
          Add a {one}
        </Button>
      ) : null}
    </fieldset>
  );
}
