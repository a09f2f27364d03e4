'use client';
import { type ReactNode, startTransition, useEffect, useState } from 'react';

/** What comes a moment after what is around it, so that a large page does not keep the hand waiting while it opens. */
export function Later({ children }: { children: ReactNode }) {
  const [there, show] = useState(false);
  useEffect(() => startTransition(() => show(true)), []);
  return there ? children : null;
}
