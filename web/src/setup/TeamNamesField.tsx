import { readTeamNames } from '@vigilum/core/formats';
import { countOf } from '@vigilum/core/quantity';
import { toast } from 'sonner';
import { Labelled } from '../ui/fields.tsx';
import { FileButton } from '../ui/FileButton.tsx';

/** Largest file of team names, bytes. */
const MOST_BYTES = 20_000;

/** Team names as somebody has them: typed, pasted from a sheet, or from a CSV file; below it the names as they were understood. */
export function TeamNamesField({
  text,
  change,
  touched,
}: {
  text: string;
  change: (text: string) => void;
  /** Whether it is time to say what is wrong. */
  touched: boolean;
}) {
  const { names, fault } = readTeamNames(text);
  const table = names.length > 0 && names.join('\n') !== text.trim();
  const take = async (file: File) => {
    if (file.size > MOST_BYTES)
      return void toast.error(`${file.name} is longer than a list of twenty teams.`);
    const read = readTeamNames(await file.text());
    if (read.names.length === 0)
      return void toast.error(`${file.name}: ${read.fault ?? 'no name was found.'}`);
    change(`${read.names.join('\n')}\n`);
  };
  return (
    <div className="flex min-w-0 flex-col gap-1">
      <Labelled label="teams, one nickname a line; no student’s name" className="min-w-0">
        <textarea
          className="input h-44 w-full py-2 leading-7"
          aria-invalid={touched && fault !== null}
          value={text}
          onChange={(event) => change(event.target.value)}
        />
      </Labelled>
      {touched && fault ? <span className="text-fault">{fault}</span> : null}
      {table && !fault ? (
        <p className="text-ink-2">
          {countOf(names.length, 'team')}: {names.join(', ')}
        </p>
      ) : null}
      <div>
        <FileButton
          label="File of team names"
          accept=".csv,.txt,text/csv,text/plain"
          take={(file) => void take(file)}
        >
          Names from a CSV file
        </FileButton>
      </div>
    </div>
  );
}
