/** The ribbon that stands for the application. */
export function Mark() {
  return (
    <svg viewBox="0 0 34 26" className="h-6 w-8 text-mark" aria-hidden>
      <path d="M2 6 H24 A4.5 4.5 0 0 1 24 15 H10 A3.5 3.5 0 0 0 10 22 H32" fill="none" stroke="currentColor" strokeWidth="4.5" />
    </svg>
  );
}
