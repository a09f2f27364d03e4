'use client';
import { useEffect, useRef, useState } from 'react';
import type { Project, Take } from '@/core/shot';
import { laidPicture } from '@/data/pictures';
import { laid } from '@/data/together';
import type { LaidTake } from '@/media/laid';

/** How a take is laid on its set-up's reference; measured when it was not yet, null until then. */
export function useLaid(project: Project, take: Take | undefined): { lies: LaidTake | null; problem: string } {
  const [state, setState] = useState<{ lies: LaidTake | null; problem: string }>({ lies: null, problem: '' });
  // biome-ignore lint/correctness/useExhaustiveDependencies: anew only when another take is looked at
  useEffect(() => {
    let wanted = true;
    setState({ lies: null, problem: '' });
    if (take)
      laid(project, take, () => undefined).then(
        (lies) => wanted && setState({ lies, problem: '' }),
        (error: Error) => wanted && setState({ lies: null, problem: error.message }),
      );
    return () => {
      wanted = false;
    };
  }, [take?.id]);
  return state;
}

/** The picture of a laid take at a time; the newest request wins. */
export function useLaidPicture(lies: LaidTake | null, time: number): ImageData | null {
  const [picture, setPicture] = useState<ImageData | null>(null);
  const wanted = useRef<{ lies: LaidTake; time: number } | null>(null);
  const busy = useRef(false);
  useEffect(() => {
    wanted.current = lies && { lies, time };
    if (!lies) setPicture(null);
    const draw = async () => {
      if (busy.current) return;
      busy.current = true;
      while (wanted.current) {
        const now = wanted.current;
        wanted.current = null;
        const made = await laidPicture(now.lies, now.time).catch(() => null);
        if (made) setPicture(new ImageData(made.rgba, made.width, made.height));
      }
      busy.current = false;
    };
    void draw();
  }, [lies, time]);
  return picture;
}
