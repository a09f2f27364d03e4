'use client';
import { useState } from 'react';
import type { Take } from '@/core/document';
import { say } from '@/core/words';
import { hearFrom } from '@/data/mic';
import { edit, useProject } from '@/data/store';
import { Button, Note, NumberField, Working } from '@/ui/controls';
import { FileLink } from '@/ui/file-link';

type Mic = NonNullable<Take['mic']>;

/** Whose sound a take is heard by: the camera's own, or a microphone's file. */
export function MicField({ take }: { take: Take }) {
  const name = useProject((s) => s.project?.media.find((m) => m.id === take.mic?.mediaId)?.name);
  const [doing, setDoing] = useState<number | null>(null);
  const [said, setSaid] = useState('');
  const change = (label: string, next: Mic | null) =>
    edit(label, (draft) => {
      const own = draft.takes.find((t) => t.id === take.id);
      if (!own) return;
      if (next) own.mic = next;
      else delete own.mic;
    });
  const bring = async (file: File) => {
    setDoing(0);
    setSaid(await hearFrom(take.id, file, setDoing).catch((e: Error) => e.message));
    setDoing(null);
  };
  const { mic } = take;
  return (
    <div className="mt-2 flex flex-wrap items-end gap-3">
      {doing !== null ? (
        <Working text={say`Looking for the take in it`} done={doing} />
      ) : (
        <FileLink
          text={say`Hear it from a microphone’s file`}
          accept="audio/*,video/*,.wav,.mp3,.m4a"
          onFile={(file) => void bring(file)}
        />
      )}
      {mic && (
        <>
          <span className="self-center text-sm">
            {say`Heard from `}
            {name}
          </span>
          <div className="w-36">
            <NumberField
              label={say`The take begins in it at`}
              unit="s"
              value={mic.offset}
              min={-36_000}
              max={36_000}
              step={0.01}
              digits={3}
              onChange={(offset) => change(say`Move a microphone’s sound`, { ...mic, offset })}
            />
          </div>
          <div className="w-36">
            <NumberField
              label={say`Its clock is faster by`}
              unit="ppm"
              value={(mic.rate - 1) * 1e6}
              min={-10_000}
              max={10_000}
              step={1}
              digits={1}
              onChange={(ppm) => change(say`Set a microphone’s clock`, { ...mic, rate: 1 + ppm / 1e6 })}
            />
          </div>
          <Button onClick={() => change(say`Hear a take as the camera heard it`, null)}>{say`Hear the camera’s own`}</Button>
        </>
      )}
      {said && <Note level="unsure">{said}</Note>}
    </div>
  );
}
