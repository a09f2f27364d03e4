'use client';
import { useEffect, useRef } from 'react';
import { type BeatsReport, beatsReport, beatsReportSchema, type SeamReport, type SyncReport, type TakesReport } from '@/core/exchange';
import { say } from '@/core/words';
import { hearSong, makeFilm } from '@/data/jobs';
import { openProjectFile } from '@/data/project-file';
import { useProject } from '@/data/store';
import { storedFilm } from '@/data/stored';
import { matteOf, seamReport, stored, syncReport, takesOf } from './reports';

/** What the command line calls; files come through the page's file input. */
interface Door {
  beats(): Promise<BeatsReport>;
  takes(): Promise<TakesReport>;
  sync(): Promise<SyncReport>;
  seam(): Promise<SeamReport>;
  matte(at: number): Promise<{ url: string; note: string }>;
  render(container: string): Promise<{ frames: number; seconds: number; url: string }>;
}

declare global {
  interface Window {
    fickleRibbonDoor?: Door;
  }
}

const silent = () => undefined;

/** The headless door: no controls, only a file input and functions on the window. */
export function BatchDoor() {
  const input = useRef<HTMLInputElement>(null);
  useEffect(() => {
    const files = () => [...(input.current?.files ?? [])];
    window.fickleRibbonDoor = {
      async beats() {
        const [file] = files();
        const media = await stored(file);
        const found = await hearSong(media.id, silent);
        if (!found) throw new Error(say`${file.name}: there is no sound in this file.`);
        return beatsReportSchema.parse(beatsReport(file.name, found));
      },
      takes: () => takesOf(files()),
      sync: () => syncReport(files()),
      seam: () => seamReport(files()),
      matte: async (at) => {
        const { picture, note } = await matteOf(files(), at);
        return { url: URL.createObjectURL(picture), note };
      },
      async render(format) {
        const { problem, said } = await openProjectFile(files()[0], silent);
        if (problem || said) throw new Error(problem || said);
        const { project } = useProject.getState();
        if (!project) throw new Error(say`The project did not open.`);
        const began = performance.now();
        let frames = 0;
        const made = await makeFilm(project, format, {}, (p) => {
          frames = p.total;
        });
        if (!made.ok) throw new Error(say`Frame ${made.fault.frame}: ${made.fault.sentence}`);
        const seconds = (performance.now() - began) / 1000;
        return { frames, seconds, url: URL.createObjectURL(await storedFilm(made.name)) };
      },
    };
    return () => {
      delete window.fickleRibbonDoor;
    };
  }, []);
  return (
    <main className="p-6">
      <p>{say`This page serves the command line (npm run batch).`}</p>
      <input ref={input} type="file" multiple aria-label={say`Files for the command line`} data-testid="batch-files" />
    </main>
  );
}
