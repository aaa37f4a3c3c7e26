import { ArrowRight } from 'lucide-react';
import { Link } from 'react-router';

/** The way on, shown when a stage has come out well enough. */
export function NextStage({ to, children }: { to: string; children: string }) {
  return (
    <Link to={`../${to}`} relative="path" className="btn btn-plain">
      {children} <ArrowRight size={18} aria-hidden="true" />
    </Link>
  );
}
