import { say } from '@/core/words';
import { db } from './db';
import { DEMO_NAME, openDemo } from './demo';
import { beginGuide } from './guide';
import { freeName, nameOf } from './project-names';
import { demoIsBegun, newProject, openProject, useProject } from './store';
import { bring } from './taking-in';

/** A name for a project of some files that none of the others has: the song's, made readable, where there is one. */
export function projectName(files: readonly { name: string; type: string }[], taken: readonly string[]): string {
  const song = files.find(({ name, type }) => type.startsWith('audio/') || /\.(mp3|m4a|wav|ogg|flac|aac|opus)$/i.test(name));
  const words = (song?.name ?? '')
    .replace(/\.[^.]*$/, '')
    .replace(/[_\-.]+/g, ' ')
    .replace(/^\s*\d+\s+/, '')
    .trim()
    .slice(0, 60);
  return freeName(words ? words[0].toUpperCase() + words.slice(1) : say`New project`, taken);
}

/**
 * A new project, named after its song; its files are taken in while the page goes on. A project file by itself is opened instead; throws a
 * sentence where it cannot be. Gives the stage to go on with.
 */
export async function startOwn(files: readonly File[]): Promise<string> {
  if (files.length === 1 && /\.zip$/i.test(files[0].name)) {
    await bring(files);
    const { project, problem } = useProject.getState();
    if (!project) throw new Error(problem || say`${files[0].name} could not be opened.`);
    return stageOf();
  }
  const rows = await db.projects.toArray();
  const name = projectName(
    files,
    rows.map((row) => nameOf(row.document)),
  );
  await newProject(name);
  const { project } = useProject.getState();
  if (project) beginGuide(project.id);
  void bring(files);
  return '/shoot';
}

/** Opens the demo as it is here, or afresh where it is not. Throws a sentence where it cannot be fetched. */
export async function openTheDemo(onStep: (text: string, done: number) => void): Promise<void> {
  const rows = await db.projects.orderBy('changed').reverse().toArray();
  const here = (await demoIsBegun()) ? undefined : rows.find((row) => !row.deleted && nameOf(row.document) === DEMO_NAME);
  if (here) return openProject(here.id);
  const problem = await openDemo(onStep);
  if (problem) throw new Error(problem);
}

/** The stage a project is gone on with: as far as it has come. */
export function stageOf(): string {
  const { project } = useProject.getState();
  if (!project) return '/plan';
  return project.shots.length > 0 ? '/score' : project.takes.length > 0 ? '/takes' : project.plans.length > 0 ? '/plan' : '/shoot';
}
