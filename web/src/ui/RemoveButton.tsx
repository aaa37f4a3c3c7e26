import { Trash2 } from 'lucide-react';

/** Takes one row away; says which. */
export function RemoveButton({
  title,
  disabled = false,
  onClick,
  className = '',
}: {
  title: string;
  disabled?: boolean;
  onClick: () => void;
  className?: string;
}) {
  return (
    <button
      type="button"
      className={`inline-grid size-11 shrink-0 place-items-center rounded-lg hover:bg-line-soft ${className}`}
      title={title}
      disabled={disabled}
      onClick={onClick}
    >
      <Trash2 size={19} aria-hidden="true" />
      <span className="sr-only">{title}</span>
    </button>
  );
}
