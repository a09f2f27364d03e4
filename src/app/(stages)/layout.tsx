import type { ReactNode } from 'react';
import { Shell } from '@/views/shell';

export default function StagesLayout({ children }: { children: ReactNode }) {
  return <Shell>{children}</Shell>;
}
