'use client';
import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { type CutAlong, footageOf, type Project, type Stroke, type Take } from '@/core/document';
import { say } from '@/core/words';
import { asShown, changeCut, cutOf, forgetCorrection, type KeptAlong, keepAlong, keepCorrection, knownAlong } from '@/data/cut-along';
import { alignedPicture, takePicture } from '@/data/pictures';
import { aligned } from '@/data/set-up';
import { addFiles } from '@/data/shots';
import { useProject } from '@/data/store';
import { download, slug } from '@/data/stored';
import { openMedia } from '@/media/files';
import { Button, Note, Working } from '@/ui/controls';
import { useJob } from '@/views/shared';
import { drawOn, type Ground } from './grounds';
import { useNewestPicture } from './use-aligned';

/** The cut-out over time that a take has as it is asked for now; null while there is none. */
export function useKeptAlong(project: Project, take: Take | undefined): KeptAlong | null {
  const [kept, setKept] = useState<KeptAlong | null>(null);
  useEffect(() => {
    let wanted = true;
    if (!take) setKept(null);
    else
      void knownAlong(project, take.id)
        .catch(() => null)
        .then((known) => wanted && setKept((before) => (before?.matteId === known?.matteId ? before : known)));
    return () => {
      wanted = false;
    };
  }, [project, take]);
  return kept;
}

/** A frame of a take as it is cut out over time, on a ground. */
export function AlongPicture({
  project,
  take,
  kept,
  time,
  ground,
}: {
  project: Project;
  take: Take;
  kept: KeptAlong;
  time: number;
  ground: Ground;
}) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { width } = footageOf(project, take.id);
  // biome-ignore lint/correctness/useExhaustiveDependencies: how it lies is looked up in what is kept, and the same for the same take
  const picture = useCallback(
    async () => alignedPicture(await (cutOf(take).way === 'set' ? aligned(project, take, () => undefined) : asShown(project, take)), time),
    [take.id, time],
  );
  const grey = useCallback(() => takePicture(kept.matteId, width, Math.max(0, time - kept.begins)), [kept, width, time]);
  const [seen, cover] = [useNewestPicture(picture), useNewestPicture(grey)];
  useEffect(() => {
    const page = canvas.current;
    if (!page || !seen || !cover || seen.width !== cover.width || seen.height !== cover.height) return;
    const alpha = Uint8Array.from({ length: seen.width * seen.height }, (_, i) => cover.data[4 * i]);
    drawOn(page, { width: seen.width, height: seen.height, rgba: seen.data, alpha }, ground);
  }, [seen, cover, ground]);
  return <canvas ref={canvas} className="block w-full" role="img" aria-label={say`The take, cut out`} data-testid="along-picture" />;
}

/** The same cut-out on every frame of a take: worked out, corrected on single frames, kept as a grey film. */
export function CutAlongPanel({
  project,
  take,
  way,
  tolerance,
  time,
  strokes,
  kept,
  choosing,
  onChoose,
  onSeek,
  onKept,
}: {
  project: Project;
  take: Take;
  way: CutAlong['way'];
  tolerance: number;
  time: number;
  /** What was painted on the frame that is looked at. */
  strokes: readonly Stroke[];
  kept: KeptAlong | null;
  choosing: boolean;
  onChoose: (choosing: boolean) => void;
  onSeek: (time: number) => void;
  /** Told when what was painted was kept, so that it is begun anew. */
  onKept: () => void;
}) {
  const { doing, problem, run, stop } = useJob();
  const [said, setSaid] = useState('');
  const cut = cutOf(take);
  const { chosen, corrections } = cut;
  const file = useMemo(() => project.media.find((m) => m.id === kept?.matteId), [project.media, kept]);
  const cutOut = async () => {
    setSaid('');
    if (cut.way !== way || (way === 'key' && cut.tolerance !== tolerance))
      changeCut(take.id, say`Choose how the take is cut out`, (c) => ({ ...c, way, tolerance }));
    const began = performance.now();
    const made = await run(say`Cutting out every frame`, async (tell, signal) => {
      // The way may just have been changed.
      const now = useProject.getState().project ?? project;
      return keepAlong(now, take.id, tell, signal);
    });
    if (!made) return;
    addFiles(say`Keep the cut-out over time`, made.media, project.id);
    const [film] = made.media;
    const seconds = (performance.now() - began) / 1000;
    const frames = film ? Math.round(film.duration * film.fps) : 0;
    setSaid(film ? say`${frames} frames cut out in ${seconds.toFixed(0)} s, ${(frames / seconds).toFixed(1)} a second.` : '');
  };
  const save = async () => {
    if (file) download(await openMedia(file.id), `${slug(footageOf(project, take.id).name)}-cut-out.mp4`);
  };
  return (
    <section className="space-y-2 border-rule border-t pt-3" aria-label={say`Along the take`}>
      <h3 className="font-semibold">{say`Along the take`}</h3>
      <p className="text-sm">{say`The same on every frame, soft where it moves, kept as a grey film beside the take.`}</p>
      {strokes.length > 0 && (
        <Button
          className="w-full"
          onClick={() => {
            keepCorrection(take.id, time, [...strokes]);
            onKept();
          }}
        >{say`Carry what I drew along from ${time.toFixed(2)} s`}</Button>
      )}
      {corrections.length > 0 && (
        <ul className="text-sm">
          {corrections.map((c) => (
            <li key={c.time} className="flex items-center justify-between gap-2">
              <button type="button" className="min-h-11 underline" onClick={() => onSeek(c.time)}>
                {say`Corrected at `}
                <span className="num">{c.time.toFixed(2)} s</span>
              </button>
              <Button onClick={() => forgetCorrection(take.id, c.time)} aria-label={say`Forget the correction at ${c.time.toFixed(2)} s`}>
                {say`Forget`}
              </Button>
            </li>
          ))}
        </ul>
      )}
      {way === 'set' && (
        <div className="flex flex-wrap items-center gap-2 text-sm">
          <span>{chosen ? say`Only the figure at ${chosen.time.toFixed(2)} s` : say`Everybody who is seen`}</span>
          <Button aria-pressed={choosing} onClick={() => onChoose(!choosing)}>
            {choosing ? say`Press on one in the picture` : say`Choose one`}
          </Button>
          {chosen && (
            <Button onClick={() => changeCut(take.id, say`Cut everybody out`, (c) => ({ ...c, chosen: null }))}>{say`Everybody`}</Button>
          )}
        </div>
      )}
      {doing ? (
        <Working text={doing.text} done={doing.done} onStop={stop} />
      ) : (
        <Button kind="main" className="w-full" onClick={() => void cutOut()}>
          {kept ? say`Cut out along the take anew` : say`Cut out along the take`}
        </Button>
      )}
      {problem && <Note level="bad">{problem}</Note>}
      {kept && file && !doing && (
        <>
          <Note level="good">
            {say`${said} It is kept: ${file.duration.toFixed(2)} s, ${(file.bytes / 1e6).toFixed(1)} MB. In the score it is a mask: “the performer, cut out over time”.`}
          </Note>
          <Button className="w-full" onClick={() => void save()}>
            {say`Save the grey film`}
          </Button>
        </>
      )}
    </section>
  );
}
