'use client';
import './globals.css';
import { WentWrong } from '@/ui/went-wrong';

/** Shown where not even the frame around the pages could be drawn. */
export default function GlobalError({ error }: { error: Error & { digest?: string } }) {
  return (
    <html lang="en">
      <body>
        <WentWrong error={error} onRetry={() => location.reload()} />
      </body>
    </html>
  );
}
