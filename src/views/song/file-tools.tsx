'use client';
import { useState } from 'react';
import type { Project } from '@/core/document';
import { beatListCsv, chaptersVtt, midiOfMap } from '@/core/exchange';
import { say } from '@/core/words';
import { takeInFiles } from '@/data/media';
import { readBeats } from '@/data/song';
import { download, slug } from '@/data/stored';
import type { HeardSong } from '@/media/song';
import { Button, Note, Working } from '@/ui/controls';
import { FileButton } from './file-button';

const db = (value: number, unit: string) => (Number.isFinite(value) ? `${value.toFixed(1).replace('-', '−')} ${unit}` : 'silent');

/** How loud the song is, by ITU-R BS.1770. */
function LoudnessFigures({ heard }: { heard: HeardSong }) {
  const { integrated, shortTermMax, range, truePeak } = heard.loudness;
  const rows = [
    ['Loudness', db(integrated, 'LUFS')],
    [say`Loudest 3 s`, db(shortTermMax, 'LUFS')],
    ['Range', `${range.toFixed(1)} LU`],
    [say`True peak`, db(truePeak, 'dBTP')],
  ];
  return (
    <dl className="flex flex-wrap gap-x-6 gap-y-1">
      {rows.map(([name, value]) => (
        <div key={name}>
          <dt className="text-sm text-faint">{name}</dt>
          <dd className="num">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

/** The song as a file and its beats as files: another mix in, a tempo map in and out. */
export function FileTools({ project, heard, duration }: { project: Project; heard: HeardSong | null; duration: number }) {
  const [doing, setDoing] = useState<{ text: string; done: number; stop: AbortController } | null>(null);
  const [said, setSaid] = useState('');
  const map = project.song?.map;
  const parts = project.song?.parts ?? [];
  const name = slug(project.name);
  const save = (make: () => BlobPart, type: string, file: string) => {
    try {
      download(new Blob([make()], { type }), file);
    } catch (error) {
      setSaid(error instanceof Error ? error.message : String(error));
    }
  };
  const mix = async (file: File) => {
    const stop = new AbortController();
    setDoing({ text: file.name, done: 0, stop });
    const [result] = await takeInFiles([file], (text, done) => setDoing({ text, done, stop }), stop.signal, true).catch((e: Error) => [
      { name: file.name, problem: e.message, placed: '' },
    ]);
    setDoing(null);
    setSaid(result.problem || `${file.name}: ${result.placed || say`it is the song now.`}`);
  };
  return (
    <div className="space-y-4">
      {heard && <LoudnessFigures heard={heard} />}
      <fieldset className="flex flex-wrap gap-2">
        <legend className="mb-1 text-sm text-faint">
          {say`Another mix or edit of the song slides in where it matches; what you laid follows.`}
        </legend>
        <FileButton accept="audio/*" disabled={doing !== null} onFile={(f) => void mix(f)}>
          {say`Take in another mix`}
        </FileButton>
        <FileButton accept=".mid,.midi,.txt,.csv,.tsv,audio/midi,text/plain,text/csv" onFile={(f) => void readBeats(f).then(setSaid)}>
          {say`Read beats from a MIDI file or a list`}
        </FileButton>
      </fieldset>
      {doing && <Working text={doing.text} done={doing.done} onStop={() => doing.stop.abort()} />}
      {said && (
        <div role="status">
          <Note level="unsure">{said}</Note>
        </div>
      )}
      <fieldset className="flex flex-wrap gap-2" disabled={!map}>
        <legend className="mb-1 text-sm text-faint">{say`The beat map as a file`}</legend>
        <Button
          disabled={!map}
          onClick={() => map && save(() => midiOfMap(map, parts) as Uint8Array<ArrayBuffer>, 'audio/midi', `${name}-tempo-map.mid`)}
        >
          {say`Save as MIDI tempo map`}
        </Button>
        <Button disabled={!map} onClick={() => map && save(() => beatListCsv(map, parts), 'text/csv', `${name}-beats.csv`)}>
          {say`Save as CSV`}
        </Button>
        <Button disabled={!map} onClick={() => map && save(() => chaptersVtt(map, parts, duration), 'text/vtt', `${name}-parts.vtt`)}>
          {say`Save parts as WebVTT chapters`}
        </Button>
      </fieldset>
    </div>
  );
}
