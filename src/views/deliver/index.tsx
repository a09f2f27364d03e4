'use client';
import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import type { Project } from '@/core/document';
import { asVersion, filmFrames } from '@/core/evaluate';
import type { Size } from '@/core/sources';
import { fps, frameToSeconds, STANDARD_RATES, toTimecode } from '@/core/time';
import { say } from '@/core/words';
import { type ExportFormat, FORMATS } from '@/data/formats';
import { passStep } from '@/data/guide';
import { Cancelled } from '@/data/jobs';
import { seekIntoFilm } from '@/data/playback';
import { useSettledPlayhead } from '@/data/playhead';
import { edit, useProject } from '@/data/store';
import { download, slug } from '@/data/stored';
import type { FilmFault, Leave } from '@/media/fault';
import { sentenceOf } from '@/media/sentence';
import { Button, Heading, Note, Working } from '@/ui/controls';
import { SelectField } from '@/ui/value-field';
import { FilmPicture, MissingFiles, Transport } from '@/views/shared';
import { CAN_CHOOSE, chooseFile } from './choose-file';
import { CutOffFilms } from './cut-off-films';
import { FrameField } from './frame-field';
import { LoudnessField } from './loudness-field';
import { ShapeField, ShapeWindow } from './shapes';
import { ShareFile } from './share-file';
import { Stopped } from './stopped';

/** A film that stopped at something that cannot be read, and how it was asked for. */
interface StoppedFilm {
  fault: FilmFault;
  format: ExportFormat;
  chosen: FileSystemFileHandle | null;
  leave: readonly Leave[];
}

interface Doing {
  text: string;
  done: number;
}

const fileName = (project: Project, ending: string, shape: Size | null = null) =>
  `${slug(project.name).toLowerCase() || 'film'}${shape ? `-${shape.width}x${shape.height}` : ''}.${ending}`;

export function DeliverView() {
  const project = useProject((s) => s.project);
  const projectId = project?.id;
  useEffect(() => {
    if (projectId) seekIntoFilm();
  }, [projectId]);
  const playhead = useSettledPlayhead();
  const [doing, setDoing] = useState<Doing | null>(null);
  const [said, setSaid] = useState<{ level: 'good' | 'bad'; text: string } | null>(null);
  const [film, setFilm] = useState('');
  const [made, setMade] = useState<File | null>(null);
  const [stopped, setStopped] = useState<StoppedFilm | null>(null);
  const [shape, setShape] = useState<Size | null>(null);
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
  const make = (format: ExportFormat, chosen: FileSystemFileHandle | null = null, leave: readonly Leave[] = []) =>
    run(async (signal) => {
      setStopped(null);
      setMade(null);
      const tell = (text: string, done: number) => setDoing({ text, done });
      const other = format.group === 'project' ? null : shape;
      const made = await format.make({ project: other ? asVersion(project, other) : project, playhead, chosen, leave, tell, signal });
      if (!made.ok) {
        setStopped({ fault: made.fault, format, chosen, leave });
        return '';
      }
      const name = chosen?.name ?? fileName(project, format.ending(playhead), other);
      if (!chosen) download(made.file, name);
      const file = new File([made.file], name, { type: format.type });
      if (!chosen) setMade(file);
      if (format.group === 'film') {
        setFilm(URL.createObjectURL(file));
        passStep('deliver');
      }
      return `${name}: ${made.said} ${chosen ? say`It is in the file you chose.` : say`It is in your downloads.`}`;
    });
  const makeInto = async (format: ExportFormat) => {
    const ending = format.ending(playhead);
    const chosen = await chooseFile(fileName(project, ending, format.group === 'project' ? null : shape), format.type, ending);
    if (chosen) await make(format, chosen);
  };
  const busy = doing !== null;
  const offer = (group: ExportFormat['group']) => {
    const formats = FORMATS.filter((format) => format.group === group);
    const why = formats[0].unavailable(project);
    if (why) return <p className="text-faint">{why}</p>;
    return (
      <div className="flex flex-wrap gap-2">
        {formats.map((format, i) => (
          <Button key={format.id} kind={group === 'film' && i === 0 ? 'main' : undefined} disabled={busy} onClick={() => void make(format)}>
            {format.label}
          </Button>
        ))}
        {CAN_CHOOSE && formats[0].streams && (
          <Button kind="quiet" disabled={busy} onClick={() => void makeInto(formats[0])}>
            {say`${formats[0].id.toUpperCase()} into a file of your choice…`}
          </Button>
        )}
      </div>
    );
  };
  return (
    <div className="mx-auto max-w-5xl p-4 sm:p-6">
      <Heading title={say`Deliver`} question={say`Get it out.`} />
      <div className="grid gap-6 md:grid-cols-[1fr_26rem]">
        <div className="space-y-6">
          {doing && <Working text={doing.text} done={doing.done} onStop={() => stop.current?.abort()} />}
          {said && (
            <div role={said.level === 'bad' ? 'alert' : 'status'}>
              <Note level={said.level}>{said.text}</Note>
              {said.level === 'good' && made && <ShareFile file={made} />}
            </div>
          )}
          {stopped && (
            <Stopped
              project={project}
              first={first}
              fault={stopped.fault}
              onLeave={(how) => void make(stopped.format, stopped.chosen, [...stopped.leave, { fileId: stopped.fault.fileId, how }])}
              onAway={() => setStopped(null)}
            />
          )}
          <MissingFiles />
          <CutOffFilms name={fileName(project, '')} />
          <section>
            <h2 className="text-lg font-semibold">{say`The film`}</h2>
            <FrameField project={project} />
            {project.shots.length > 0 && (
              <>
                <p className="num mb-3 text-faint">
                  {say`${project.frame.width}×${project.frame.height}, ${fps(project.frame.rate)
                    .toFixed(3)
                    .replace(
                      /\.?0+$/,
                      '',
                    )} fps, ${total} frames, ${length.toFixed(2)} s, ${project.song ? say`with the song` : say`without sound`}`}
                </p>
                <div className="mb-3 max-w-xs">
                  <SelectField
                    label={say`Frames a second; everything is timed anew on its beats`}
                    value={`${project.frame.rate.num}/${project.frame.rate.den}`}
                    options={STANDARD_RATES.map(({ name, rate: { num, den } }) => [`${num}/${den}`, name] as const)}
                    onChange={(value) => {
                      const [num, den] = value.split('/').map(Number);
                      edit(say`Change the frame rate`, (draft) => {
                        draft.frame.rate = { num, den };
                      });
                    }}
                  />
                </div>
              </>
            )}
            {project.shots.length > 0 && <LoudnessField project={project} />}
            {project.shots.length > 0 && <ShapeField project={project} shape={shape} onShape={setShape} />}
            {offer('film')}
          </section>
          <section>
            <h2 className="text-lg font-semibold">{say`A still`}</h2>
            <p className="mb-3 text-faint">
              {say`The frame at the playhead, `}
              <span className="num">{toTimecode(playhead, project.frame.rate)}</span>
              {say`, at full size.`}
            </p>
            {offer('still')}
          </section>
          <section>
            <h2 className="text-lg font-semibold">{say`The project`}</h2>
            <p className="mb-3 text-faint">{say`Everything in one .zip: the edit as JSON, the takes and the song as they are.`}</p>
            {offer('project')}
            <p className="mt-3">
              <Link href="/devices" prefetch={false} className="inline-flex min-h-11 items-center underline underline-offset-4">
                {say`Send it to another device on this network`}
              </Link>
            </p>
          </section>
        </div>
        {film ? (
          // biome-ignore lint/a11y/useMediaCaption: the user's own film; captions are not part of it
          <video src={film} controls className="w-full bg-well" data-testid="film" />
        ) : (
          <div className="order-first md:order-none md:self-start">
            <FilmPicture className="aspect-video">{shape && <ShapeWindow project={project} shape={shape} />}</FilmPicture>
            <div className="mt-2">
              <Transport />
            </div>
          </div>
        )}
      </div>
    </div>
  );
}
