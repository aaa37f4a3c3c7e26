import { FileUp } from 'lucide-react';
import { useRef, type ReactNode } from 'react';

/** A button that asks for a file; the same file may be chosen twice in a row. */
export function FileButton({
  label,
  accept,
  take,
  children,
}: {
  /** What the file is, for whoever cannot see the button. */
  label: string;
  accept: string;
  take: (file: File) => void;
  children: ReactNode;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        accept={accept}
        className="sr-only"
        aria-label={label}
        tabIndex={-1}
        onChange={({ target }) => {
          const file = target.files?.[0];
          if (file) take(file);
          target.value = '';
        }}
      />
      <button type="button" className="btn btn-plain" onClick={() => input.current?.click()}>
        <FileUp size={18} aria-hidden="true" /> {children}
      </button>
    </>
  );
}
