'use client';
import Link from 'next/link';
import type { Project } from '@/core/document';
import { inBars, tempo, tempoCurve } from '@/core/time';
import { say } from '@/core/words';
import { useProject } from '@/data/store';
import type { HeardSong } from '@/media/song';
import { Empty, Heading, Note } from '@/ui/controls';
import { PartTabs } from '@/ui/part-tabs';
import { MissingFiles, Transport, useBarsALine, useHeard } from '@/views/shared';
import { BeatTools } from './beat-tools';
import { FileTools } from './file-tools';
import { LaidAside } from './laid-aside';
import { Loupe } from './loupe';
import { PartTools } from './part-tools';
import { PlayTools } from './play-tools';
import { SongLines } from './song-lines';
import { SoundTools } from './sound-tools';

const TOOLS = [
  ['beats', say`Beats`],
  ['parts', say`Parts`],
  ['sound', say`Sound`],
  ['files', say`Files`],
] as const;

const sure = (v: number) => (v >= 0.9 ? 'sure' : v >= 0.6 ? say`fairly sure` : say`not sure`);

/** What was found, and how sure it is. */
function Summary({ project, name, heard }: { project: Project; name: string; heard: HeardSong | null }) {
  const map = project.song?.map;
  if (!map) return <Note level="fix">{heard?.reason || say`No steady beat found. Tap the beat instead.`}</Note>;
  const curve = tempoCurve(map).map((c) => c.bpm);
  const [low, high] = [curve.reduce((a, b) => Math.min(a, b)), curve.reduce((a, b) => Math.max(a, b))];
  const changes = high / low > 1.03;
  const swing = heard?.swing && heard.swing > 0.55 ? say`, swung (off beat at ${Math.round(heard.swing * 100)} %)` : '';
  return (
    <p>
      <strong>{name}</strong>: <span className="num">{say`${tempo(map).toFixed(2)} BPM`}</span>
      {changes && <span className="num">{say` (${low.toFixed(1)} to ${high.toFixed(1)})`}</span>}, {inBars(map)}
      {swing}.
      {heard?.map && (
        <span className="text-faint">
          {' '}
          {say`Beats: `}
          {sure(heard.confidence)} <span className="num">({Math.round(heard.confidence * 100)} %)</span>
          {say`; bar lines:`} {sure(heard.downbeatConfidence)} <span className="num">({Math.round(heard.downbeatConfidence * 100)} %)</span>
          .
        </span>
      )}
    </p>
  );
}

export function SongView() {
  const project = useProject((s) => s.project);
  const [bars, setBars, page] = useBarsALine();
  const mediaId = project?.song?.mediaId;
  const heard = useHeard(mediaId);
  const song = project?.media.find((m) => m.id === mediaId);
  if (!project) return null;
  if (!mediaId || !song) {
    return (
      <Empty text={say`No song yet. Everything in the film hangs on its beats, so take it in first.`}>
        <Link href="/shoot" className="inline-flex min-h-11 items-center underline">
          {say`Take in the song under Shoot`}
        </Link>
      </Empty>
    );
  }
  return (
    <div className="mx-auto max-w-7xl p-4 sm:p-6">
      <div className="mb-3 space-y-3">
        <div className="flex flex-wrap items-baseline justify-between gap-x-6">
          <Heading title={say`Song`} question={say`Where are the beats?`} />
          <Summary project={project} name={song.name} heard={heard} />
        </div>
        <LaidAside project={project} />
      </div>
      <div className="sticky top-0 z-20 -mx-4 border-b border-rule bg-paper px-4 pb-1 sm:-mx-6 sm:px-6">
        <Transport>
          <PlayTools />
        </Transport>
        {heard && <Loupe project={project} heard={heard} mediaId={mediaId} />}
      </div>
      <div className="mt-3 flex flex-col gap-4 lg:grid lg:grid-cols-[minmax(0,1fr)_23rem]">
        <div className="min-w-0 lg:order-2">
          <MissingFiles />
          <PartTabs label={say`Tools`} parts={TOOLS}>
            {(tool) =>
              tool === 'beats' ? (
                <BeatTools project={project} duration={song.duration} />
              ) : tool === 'parts' ? (
                <PartTools project={project} />
              ) : tool === 'sound' ? (
                <SoundTools project={project} duration={song.duration} />
              ) : (
                <FileTools project={project} heard={heard} duration={song.duration} />
              )
            }
          </PartTabs>
        </div>
        <div ref={page} className="min-w-0">
          <SongLines project={project} heard={heard} bars={bars} onBars={setBars} />
          <p className="mt-3 text-sm text-faint">
            {say`Click on the page to move the playhead. Wedges on its foot are hits, taller the stronger; hatching says the beats are not sure. Pinch to fold more or fewer bars into a line.`}
          </p>
        </div>
      </div>
    </div>
  );
}
