'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { Project, Take } from '@/core/document';
import { alignedPicture } from '@/data/pictures';
import { aligned } from '@/data/set-up';
import type { AlignedTake } from '@/media/align';
import type { Picture } from '@/media/picture';

/** How a take is laid on its set-up's reference; measured when it was not yet, null until then. */
export function useAligned(project: Project, take: Take | undefined): { lies: AlignedTake | null; problem: string } {
  const [state, setState] = useState<{ lies: AlignedTake | null; problem: string }>({ lies: null, problem: '' });
  // biome-ignore lint/correctness/useExhaustiveDependencies: anew only when another take is looked at
  useEffect(() => {
    let wanted = true;
    setState({ lies: null, problem: '' });
    if (take)
      aligned(project, take, () => undefined).then(
        (lies) => wanted && setState({ lies, problem: '' }),
        (error: Error) => wanted && setState({ lies: null, problem: error.message }),
      );
    return () => {
      wanted = false;
    };
  }, [take?.id]);
  return state;
}

/** The picture that is asked for; the newest request wins, and the one before it stays until it is there. `ask` is the same for the same picture. */
export function useNewestPicture(ask: (() => Promise<Picture>) | null): ImageData | null {
  const [picture, setPicture] = useState<ImageData | null>(null);
  const wanted = useRef<(() => Promise<Picture>) | null>(null);
  const busy = useRef(false);
  useEffect(() => {
    wanted.current = ask;
    if (!ask) setPicture(null);
    const draw = async () => {
      if (busy.current) return;
      busy.current = true;
      while (wanted.current) {
        const now = wanted.current;
        wanted.current = null;
        const made = await now().catch(() => null);
        if (made) setPicture(new ImageData(made.rgba, made.width, made.height));
      }
      busy.current = false;
    };
    void draw();
  }, [ask]);
  return picture;
}

/** The picture of a laid take at a time; the newest request wins. */
export function useAlignedPicture(lies: AlignedTake | null, time: number): ImageData | null {
  const ask = useCallback(() => alignedPicture(lies as AlignedTake, time), [lies, time]);
  return useNewestPicture(lies ? ask : null);
}
