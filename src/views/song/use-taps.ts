'use client';
import { useCallback, useEffect, useRef, useState } from 'react';
import { fromTaps } from '@/core/time';
import { say } from '@/core/words';
import { play, songTime, usePlayback } from '@/data/playback';
import { changeMap, tapStretch } from '@/data/song';
import { useProject } from '@/data/store';
import { useKeys } from '@/ui/keymap';

/** Seconds without a tap after which a stretch is over. */
const OVER = 2.5;

/**
 * Tapping along. Where there is no beat map yet four taps make one for the whole song; where there is one, the stretch that was tapped
 * is set and locked when the taps stop, and the rest is solved again around it.
 */
export function useTaps(duration: number): { count: number; said: string; tap: () => void } {
  const taps = useRef<number[]>([]);
  const over = useRef<ReturnType<typeof setTimeout>>(undefined);
  const [count, setCount] = useState(0);
  const [said, setSaid] = useState('');
  const finish = useCallback(() => {
    clearTimeout(over.current);
    const done = taps.current;
    taps.current = [];
    setCount(0);
    if (done.length && useProject.getState().project?.song?.map) void tapStretch(done).then(setSaid);
  }, []);
  const tap = useCallback(() => {
    setSaid('');
    if (!usePlayback.getState().playing) {
      void play();
      return;
    }
    taps.current.push(songTime());
    setCount(taps.current.length);
    clearTimeout(over.current);
    over.current = setTimeout(finish, OVER * 1000);
    if (useProject.getState().project?.song?.map) return;
    const map = fromTaps(taps.current, duration);
    if (map) {
      changeMap(say`Tap the beat`, map);
      taps.current = [];
    }
  }, [duration, finish]);
  useEffect(() => {
    const stop = usePlayback.subscribe((now, before) => {
      if (before.playing && !now.playing && taps.current.length) finish();
    });
    return () => {
      stop();
      clearTimeout(over.current);
    };
  }, [finish]);
  useKeys({ tap: (e) => !e.repeat && tap() });
  return { count, said, tap };
}
