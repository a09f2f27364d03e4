import { useRouter } from 'next/navigation';
import { type DragEvent, useState } from 'react';

const ofFiles = (e: DragEvent) => e.dataTransfer.types.includes('Files');

/** Files dropped on any stage are taken in, and the log is shown, where it is said what became of them. */
export function useDrops() {
  const router = useRouter();
  const [over, setOver] = useState(false);
  const drops = {
    onDragOver: (e: DragEvent) => {
      if (!ofFiles(e)) return;
      e.preventDefault();
      setOver(true);
    },
    onDragLeave: (e: DragEvent) => {
      if (!e.currentTarget.contains(e.relatedTarget as Node | null)) setOver(false);
    },
    onDrop: (e: DragEvent) => {
      if (!ofFiles(e)) return;
      e.preventDefault();
      setOver(false);
      const files = [...e.dataTransfer.files];
      void import('@/data/taking-in').then(({ bring }) => bring(files));
      router.push('/shoot');
    },
  };
  return { over, drops };
}
