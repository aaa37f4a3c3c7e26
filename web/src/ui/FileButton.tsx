import { FileUp } from 'lucide-react';
import { Button } from './Button.tsx';
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
      <Button icon={FileUp} onClick={() => input.current?.click()}>
        {children}
      </Button>
    </>
  );
}
