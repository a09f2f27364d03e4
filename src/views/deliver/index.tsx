'use client';
import { useEffect, useRef, useState } from 'react';
import { filmFrames, type Project } from '@/core/shot';
import { fps, frameToSeconds, STANDARD_RATES, toTimecode } from '@/core/time';
import { Cancelled, makeFilm, makeStill } from '@/data/jobs';
import { useSettledPlayhead } from '@/data/playhead';
import { listed, saveProjectFile } from '@/data/project-file';
import { edit, useProject } from '@/data/store';
import { download, PACKED, slug, storedFilm } from '@/data/stored';
import type { FilmFault, Leave } from '@/media/fault';
import type { FilmFormat } from '@/media/film-file';
import { sentenceOf } from '@/media/sentence';
import { Button, Heading, Note, Working } from '@/ui/parts';
import { SelectField } from '@/ui/value-field';
import { FilmPicture, MissingFiles } from '@/views/shared';
import { CAN_CHOOSE, chooseFile } from './choose-file';
import { CutOffFilms } from './cut-off-films';
import { Stopped } from './stopped';

/** A film that stopped at something that cannot be read, and how it was asked for. */
interface StoppedFilm {
  fault: FilmFault;
  format: FilmFormat;
  chosen: FileSystemFileHandle | null;
  leave: readonly Leave[];
}

interface Doing {
  text: string;
  done: number;
}

const fileName = (project: Project, ending: string) => `${slug(project.name).toLowerCase() || 'film'}.${ending}`;

function timeLeft(began: number, done: number): string {
  if (done < 0.03) return '';
  const left = ((performance.now() - began) / 1000 / done) * (1 - done);
  return left < 60 ? `, about ${Math.ceil(left)} s left` : `, about ${Math.ceil(left / 60)} min left`;
}

export function DeliverView() {
  const project = useProject((s) => s.project);
  const playhead = useSettledPlayhead();
  const [doing, setDoing] = useState<Doing | null>(null);
  const [said, setSaid] = useState<{ level: 'good' | 'bad'; text: string } | null>(null);
  const [film, setFilm] = useState('');
  const [stopped, setStopped] = useState<StoppedFilm | null>(null);
  const stop = useRef<AbortController | null>(null);
  useEffect(() => () => URL.revokeObjectURL(film), [film]);
  if (!project) return null;
  const [first, end] = filmFrames(project);
  const total = end - first;
  const length = frameToSeconds(total, project.frame.rate);
  const run = async (job: (signal: AbortSignal) => Promise<string>) => {
    stop.current = new AbortController();
    setSaid(null);
    try {
      const text = await job(stop.current.signal);
      setSaid(text ? { level: 'good', text } : null);
    } catch (error) {
      setSaid(error instanceof Cancelled ? null : { level: 'bad', text: sentenceOf(error) });
    }
    setDoing(null);
  };
  const deliver = (format: FilmFormat, chosen: FileSystemFileHandle | null = null, leave: readonly Leave[] = []) =>
    run(async (signal) => {
      const began = performance.now();
      setStopped(null);
      setDoing({ text: 'Opening the takes', done: 0 });
      const made = await makeFilm(
        project,
        format,
        { leave, chosen },
        (p) => setDoing({ text: `${p.doing}: frame ${p.done} of ${p.total}${timeLeft(began, p.done / p.total)}`, done: p.done / p.total }),
        signal,
      );
      if (!made.ok) {
        setStopped({ fault: made.fault, format, chosen, leave });
        return '';
      }
      const file = chosen ? await chosen.getFile() : await storedFilm(made.name);
      const named = new File([file], chosen?.name ?? fileName(project, format), { type: `video/${format}` });
      if (!chosen) download(named, named.name);
      setFilm(URL.createObjectURL(named));
      const took = (performance.now() - began) / 1000;
      const left = made.left > 0 ? ` ${made.left} frames in it are black or held, as you chose.` : '';
      return `${named.name}: ${(named.size / 1e6).toFixed(1)} MB, ${total} frames in ${took.toFixed(1)} s (${(total / took).toFixed(0)} frames a second). ${chosen ? 'It is in the file you chose.' : 'It is in your downloads.'}${left}`;
    });
  const deliverTo = async (format: FilmFormat) => {
    const chosen = await chooseFile(fileName(project, format), `video/${format}`, format);
    if (chosen) await deliver(format, chosen);
  };
  const still = () =>
    run(async () => {
      setDoing({ text: 'Drawing the still', done: 0.5 });
      const blob = await makeStill(project, playhead);
      download(blob, fileName(project, `frame-${playhead}.png`));
      return `Frame ${toTimecode(playhead, project.frame.rate)} is saved as a picture.`;
    });
  const save = (chosen: FileSystemFileHandle | null = null) =>
    run(async (signal) => {
      setDoing({ text: 'Packing the project', done: 0 });
      const target = chosen ? { handle: chosen } : { name: PACKED };
      const missing = await saveProjectFile(project, target, (done) => setDoing({ text: 'Packing the project', done }), signal);
      const file = chosen ? await chosen.getFile() : await storedFilm(PACKED);
      if (!chosen) download(file, fileName(project, 'zip'));
      const lacks = missing.length > 0 ? ` Not in it, for they are missing here too: ${listed(missing)}.` : '';
      return `The whole project, films and song included, is one file of ${(file.size / 1e6).toFixed(1)} MB. “Open a project file” brings it back anywhere.${lacks}`;
    });
  const saveTo = async () => {
    const chosen = await chooseFile(fileName(project, 'zip'), 'application/zip', 'zip');
    if (chosen) await save(chosen);
  };
  const nothing = project.shots.length === 0;
  const busy = doing !== null;
  return (
    <div className="mx-auto max-w-5xl p-4 sm:p-6">
      <Heading title="Deliver" question="Get it out." />
      <div className="grid gap-6 md:grid-cols-[1fr_26rem]">
        <div className="space-y-6">
          {doing && <Working text={doing.text} done={doing.done} onStop={() => stop.current?.abort()} />}
          {said && (
            <div role={said.level === 'bad' ? 'alert' : 'status'}>
              <Note level={said.level}>{said.text}</Note>
            </div>
          )}
          {stopped && (
            <Stopped
              project={project}
              first={first}
              fault={stopped.fault}
              onLeave={(how) => void deliver(stopped.format, stopped.chosen, [...stopped.leave, { fileId: stopped.fault.fileId, how }])}
              onAway={() => setStopped(null)}
            />
          )}
          <MissingFiles />
          <CutOffFilms name={fileName(project, '')} />
          <section>
            <h2 className="text-lg font-semibold">The film</h2>
            {nothing ? (
              <p className="text-faint">There is no shot on the score yet; a film needs one.</p>
            ) : (
              <>
                <p className="num mb-3 text-faint">
                  {project.frame.width}×{project.frame.height},{' '}
                  {fps(project.frame.rate)
                    .toFixed(3)
                    .replace(/\.?0+$/, '')}{' '}
                  fps, {total} frames, {length.toFixed(2)} s, {project.song ? 'with the song' : 'without sound'}
                </p>
                <div className="mb-3 max-w-xs">
                  <SelectField
                    label="Frames a second; everything is timed anew on its beats"
                    value={`${project.frame.rate.num}/${project.frame.rate.den}`}
                    options={STANDARD_RATES.map(({ name, rate: { num, den } }) => [`${num}/${den}`, name] as const)}
                    onChange={(value) => {
                      const [num, den] = value.split('/').map(Number);
                      edit('Change the frame rate', (draft) => {
                        draft.frame.rate = { num, den };
                      });
                    }}
                  />
                </div>
                <div className="flex flex-wrap gap-2">
                  <Button kind="main" disabled={busy} onClick={() => void deliver('mp4')}>
                    Make MP4 (H.264, AAC)
                  </Button>
                  <Button disabled={busy} onClick={() => void deliver('webm')}>
                    Make WebM (VP9, Opus)
                  </Button>
                  {CAN_CHOOSE && (
                    <Button kind="quiet" disabled={busy} onClick={() => void deliverTo('mp4')}>
                      MP4 into a file of your choice…
                    </Button>
                  )}
                </div>
              </>
            )}
          </section>
          <section>
            <h2 className="text-lg font-semibold">A still</h2>
            <p className="mb-3 text-faint">
              The frame at the playhead, <span className="num">{toTimecode(playhead, project.frame.rate)}</span>, at full size.
            </p>
            <Button disabled={busy} onClick={() => void still()}>
              Save PNG
            </Button>
          </section>
          <section>
            <h2 className="text-lg font-semibold">The project</h2>
            <p className="mb-3 text-faint">Everything in one .zip: the edit as JSON, the takes and the song as they are.</p>
            <div className="flex flex-wrap gap-2">
              <Button disabled={busy} onClick={() => void save()}>
                Save the project file
              </Button>
              {CAN_CHOOSE && (
                <Button kind="quiet" disabled={busy} onClick={() => void saveTo()}>
                  Into a file of your choice…
                </Button>
              )}
            </div>
          </section>
        </div>
        {film ? (
          // biome-ignore lint/a11y/useMediaCaption: the user's own film; captions are not part of it
          <video src={film} controls className="w-full bg-well" data-testid="film" />
        ) : (
          <FilmPicture className="order-first aspect-video md:order-none md:self-start" />
        )}
      </div>
    </div>
  );
}
