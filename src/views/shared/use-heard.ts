'use client';
import { useEffect, useState } from 'react';
import { songAnalysis } from '@/data/song';
import type { HeardSong } from '@/media/song';

/** All that was found in the song; null until it is there, or where there is no song. */
export function useHeard(mediaId: string | undefined): HeardSong | null {
  const [heard, setHeard] = useState<HeardSong | null>(null);
  useEffect(() => {
    let wanted = true;
    setHeard(null);
    if (mediaId)
      void songAnalysis(mediaId).then(
        (found) => wanted && setHeard(found),
        () => undefined,
      );
    return () => {
      wanted = false;
    };
  }, [mediaId]);
  return heard;
}
