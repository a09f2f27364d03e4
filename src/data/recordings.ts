import * as Comlink from 'comlink';
import { type PlannedShot, shutterLabel } from '@/core/plan';
import { say } from '@/core/words';
import { folder, removeFile } from '@/media/files';
import type { CameraApi } from '@/workers/camera.worker';
import { type Filmed, takeInOne } from './media';
import { takingIn } from './storage-lock';
import { settled, useProject } from './store';
import { slug } from './stored';

/** The file a recording is written to; it says where its take belongs and when it was begun, so that a crash loses neither. */
export const recordingName = (plan: string, slot: string, at: number) => `${plan}~${slot}~${at}.mp4`;

function readName(name: string): { plan: string; slot: string; at: number } {
  const [plan, slot, at] = name.replace(/\.mp4$/, '').split('~');
  return { plan, slot, at: Number(at) };
}

/** A slot marked inside a recording, seconds from its start. */
export interface SlotMark {
  plan: string;
  slot: string;
  from: number;
  to: number;
}

/** The settings a shot was planned with, as a take's log has them. */
function plannedSettings({ camera }: PlannedShot): Filmed['settings'] {
  return {
    shutter: shutterLabel(camera.shutter),
    aperture: `f/${camera.aperture}`,
    iso: String(camera.iso),
    whiteBalance: '',
    lens: `${camera.focal} mm`,
  };
}

/** Takes a recording in as a take of the slot its name speaks of, and removes the recording. Returns '' or why it could not; then it stays. */
export async function keep(name: string, live: Filmed['live']): Promise<string> {
  const { project } = useProject.getState();
  const { plan: planId, slot, at } = readName(name);
  const plan = project?.plans.find((p) => p.id === planId);
  const file = await (await (await folder('recordings')).getFileHandle(name)).getFile();
  const count = project?.takes.filter((t) => t.plan === planId && t.slot === slot).length ?? 0;
  const title = slug(`${plan?.name ?? 'take'}-${slot}-${count + 1}`).toLowerCase();
  const filmed = plan ? { plan: plan.id, slot, filmedAt: at, live, settings: plannedSettings(plan) } : null;
  const whole = new File([file], `${title}.mp4`, { type: 'video/mp4' });
  const { problem } = await takingIn(() => takeInOne(whole, () => undefined, undefined, filmed));
  if (problem) return problem;
  // The recording goes only once its take is on the disk.
  await settled();
  if (useProject.getState().unsaved) return say`The project could not be saved.`;
  await removeFile('recordings', name);
  return '';
}

/** Cuts an unbroken recording into the slots marked inside it and keeps each. Returns '' or the first reason that one could not. */
export async function keepParts(
  camera: Comlink.Remote<CameraApi>,
  name: string,
  marks: readonly SlotMark[],
  live: Filmed['live'],
): Promise<string> {
  const { at } = readName(name);
  const parts = marks.map((m, i) => ({ ...m, name: recordingName(m.plan, m.slot, Math.round(at + m.from * 1000) + i) }));
  await camera.part(name, parts);
  let problem = '';
  for (const { name: part, from, to } of parts) {
    const bumps = live?.bumps.filter((b) => b.time >= from && b.time < to).map((b) => ({ ...b, time: b.time - from })) ?? [];
    const why = await keep(part, live && { ...live, bumps });
    problem ||= why;
  }
  return problem;
}

/** Names of recordings that a crash cut off and that can be saved; those being written just now are left alone. */
export async function cutOffRecordings(): Promise<string[]> {
  const helper = new Worker(new URL('../workers/camera.worker.ts', import.meta.url), { type: 'module' });
  try {
    return await Comlink.wrap<CameraApi>(helper).saved();
  } finally {
    helper.terminate();
  }
}

/** Keeps cut-off recordings as takes. Returns '' or the first reason that one could not be kept. */
export async function recover(names: readonly string[]): Promise<string> {
  let problem = '';
  for (const name of names) {
    const why = await keep(name, null);
    problem ||= why;
  }
  return problem;
}

/** Removes cut-off recordings. Returns ''. */
export async function discard(names: readonly string[]): Promise<string> {
  for (const name of names) await removeFile('recordings', name);
  return '';
}
