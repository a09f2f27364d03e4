'use client';
import { WentWrong } from '@/ui/went-wrong';

export default function StageError({ error, reset }: { error: Error & { digest?: string }; reset: () => void }) {
  return <WentWrong error={error} onRetry={reset} />;
}
