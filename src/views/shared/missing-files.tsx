'use client';
import { useEffect, useRef, useState } from 'react';
import type { Media } from '@/core/document';
import { say } from '@/core/words';
import { lookForMissing, pointTo, useMissing } from '@/data/missing';
import { useProject } from '@/data/store';
import { sentenceOf } from '@/media/sentence';
import { Button, Note, Working } from '@/ui/controls';

/** Files of the project that are missing or damaged, each with a way to point to it; nothing where all are there. */
export function MissingFiles() {
  const media = useProject((s) => s.project?.media);
  const files = useMissing((s) => s.files);
  useEffect(() => void lookForMissing().catch(() => undefined), []);
  const [chosen, setChosen] = useState<Media | null>(null);
  const [doing, setDoing] = useState<{ name: string; done: number } | null>(null);
  const [problem, setProblem] = useState('');
  const picker = useRef<HTMLInputElement>(null);
  const stop = useRef<AbortController | null>(null);
  const missing = media?.filter((m) => files.has(m.id)) ?? [];
  if (missing.length === 0) return null;
  const filmed = missing.filter((m) => m.kind === 'video' || m.kind === 'audio');
  const made = missing.filter((m) => m.kind !== 'video' && m.kind !== 'audio');
  const point = async (to: Media, file: File) => {
    stop.current = new AbortController();
    setProblem('');
    setDoing({ name: file.name, done: 0 });
    setProblem(await pointTo(to, file, (done) => setDoing({ name: file.name, done }), stop.current.signal).catch(sentenceOf));
    setDoing(null);
  };
  return (
    <section className="mb-5 rounded-md border-2 border-dashed border-mark p-3" aria-label={say`Missing files`} data-testid="missing-files">
      <h2 className="font-semibold">{say`Missing files`}</h2>
      <p className="mb-2 text-sm text-faint">
        {say`Your edit is kept. Point to each file, or film it again; until then it is black or silent here, and the film is not made without asking.`}
      </p>
      <ul>
        {filmed.map((m) => (
          <li key={m.id} className="flex flex-wrap items-center justify-between gap-2 border-t border-rule py-1.5">
            <span>
              {m.name} <span className="num text-sm text-faint">{m.duration.toFixed(1)} s</span>
            </span>
            <Button
              disabled={doing !== null}
              onClick={() => {
                setChosen(m);
                picker.current?.click();
              }}
            >
              {say`Point to the file`}
            </Button>
          </li>
        ))}
        {made.map((m) => (
          <li key={m.id} className="border-t border-rule py-1.5 text-sm">
            {say`${m.name}: it was worked out here. Run the move or mask that uses it again, and it is made anew.`}
          </li>
        ))}
      </ul>
      <input
        ref={picker}
        type="file"
        hidden
        accept="video/*,audio/*,.mp4,.mov,.webm,.mkv,.mp3,.m4a,.wav,.ogg,.flac"
        data-testid="missing-file"
        onChange={(e) => {
          const [file] = e.target.files ?? [];
          e.target.value = '';
          if (file && chosen) void point(chosen, file);
        }}
      />
      {doing && <Working text={doing.name} done={doing.done} onStop={() => stop.current?.abort()} />}
      {problem && (
        <div role="alert">
          <Note level="bad">{problem}</Note>
        </div>
      )}
    </section>
  );
}
