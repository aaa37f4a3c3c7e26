import { Calculator } from 'lucide-react';
import { Link } from 'react-router';
import { workingPath } from './robotNumbers.ts';

/** The way from a stage to the calculation behind it, with the numbers of this robot put in. */
export function WorkingLink({
  sheet,
  numbers,
  children,
}: {
  sheet: string;
  numbers: Readonly<Record<string, number | null>>;
  children: string;
}) {
  return (
    <Link
      to={workingPath(sheet, numbers)}
      className="inline-flex min-h-11 items-center gap-2 font-semibold text-sea underline"
    >
      <Calculator size={18} aria-hidden="true" /> {children}
    </Link>
  );
}
