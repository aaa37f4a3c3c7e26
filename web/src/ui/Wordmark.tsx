/** Two peaks like a W, crossed by the threshold line. */
export function Mark({ className = '' }: { className?: string }) {
  return (
    <svg viewBox="0 0 48 28" className={className} aria-hidden="true">
      <path
        d="M5 4 15 24 24 9 33 24 43 4"
        fill="none"
        stroke="currentColor"
        strokeWidth="4.4"
        strokeLinejoin="round"
        strokeLinecap="round"
      />
      <path d="M2 14H46" stroke="#e2553f" strokeWidth="3" />
    </svg>
  );
}
