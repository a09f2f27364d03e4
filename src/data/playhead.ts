import { useEffect, useState } from 'react';
import { usePlayback } from './playback';
import { useProject } from './store';

/** Milliseconds between two looks while playing. */
const REST = 250;

/** The playhead for figures and tools: at once while nothing plays, four times a second while it does, so that playing stays smooth. */
export function useSettledPlayhead(): number {
  const [playhead, setPlayhead] = useState(() => useProject.getState().playhead);
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = () => {
      clearTimeout(timer);
      timer = undefined;
      setPlayhead(useProject.getState().playhead);
    };
    look();
    const stops = [
      useProject.subscribe((now, before) => {
        if (now.playhead === before.playhead) return;
        if (!usePlayback.getState().playing) look();
        else timer ??= setTimeout(look, REST);
      }),
      usePlayback.subscribe((now, before) => now.playing !== before.playing && look()),
    ];
    return () => {
      clearTimeout(timer);
      for (const stop of stops) stop();
    };
  }, []);
  return playhead;
}
