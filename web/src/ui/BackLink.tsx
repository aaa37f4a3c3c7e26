import { ArrowLeft } from 'lucide-react';
import { Link } from 'react-router';

/** The way back to what a page belongs to. */
export function BackLink({ to, title }: { to: string; title: string }) {
  return (
    <Link to={to} className="grid size-11 place-items-center rounded-lg hover:bg-line-soft" title={title}>
      <ArrowLeft size={22} aria-hidden="true" />
      <span className="sr-only">{title}</span>
    </Link>
  );
}
