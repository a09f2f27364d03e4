'use client';
import { withKey, withoutKey } from '@/core/motion';
import { isReveal, lineAt, type Project, type RevealShot, revealFrames, type Shot } from '@/core/shot';
import { edit } from '@/data/store';

/** Changes one shot as a named step. */
export function changeShot(id: string, label: string, how: (shot: Shot) => void): void {
  edit(label, (draft) => {
    const shot = draft.shots.find((s) => s.id === id);
    if (shot) how(shot);
  });
}

/** Changes one shot's reveal as a named step. */
export function changeReveal(id: string, label: string, how: (mix: RevealShot['mix']) => void): void {
  changeShot(id, label, (shot) => {
    if (isReveal(shot)) how(shot.mix);
  });
}

/** Key frames are kept on the frames they were laid for; this is where a film frame lies among them. */
export function keyFrame(project: Project, shot: RevealShot, frame: number): number {
  const [from, to] = revealFrames(project, shot);
  return Math.round(((frame - from) * shot.mix.lineLength) / (to - from));
}

/** The film frame of a key. */
export function filmFrame(project: Project, shot: RevealShot, key: number): number {
  const [from, to] = revealFrames(project, shot);
  return from + Math.round((key * (to - from)) / shot.mix.lineLength);
}

/** Puts a key on a film frame, with the value given or the line's own there. */
export function setKey(project: Project, shot: RevealShot, frame: number, value?: number): void {
  const at = keyFrame(project, shot, frame);
  const known = shot.mix.line.find((k) => k.frame === at);
  const rounded = Math.round((value ?? lineAt(project, shot, frame)) * 10) / 10;
  changeReveal(shot.id, 'Set a key of the line', (mix) => {
    mix.line = [...withKey(mix.line, { frame: at, value: rounded, easing: known?.easing ?? 'linear' })];
  });
}

export function removeKey(project: Project, shot: RevealShot, frame: number): void {
  const at = keyFrame(project, shot, frame);
  changeReveal(shot.id, 'Remove a key of the line', (mix) => {
    mix.line = [...withoutKey(mix.line, at)];
  });
}

/** Moves a key to another frame and value; it cannot pass its neighbours. */
export function moveKey(shot: RevealShot, index: number, frame: number, value: number): void {
  changeReveal(shot.id, 'Move a key of the line', (mix) => {
    const keys = mix.line;
    const low = index > 0 ? keys[index - 1].frame + 1 : Number.NEGATIVE_INFINITY;
    const high = index < keys.length - 1 ? keys[index + 1].frame - 1 : Number.POSITIVE_INFINITY;
    if (!keys[index]) return;
    keys[index].frame = Math.round(Math.min(high, Math.max(low, frame)));
    keys[index].value = Math.round(Math.min(200, Math.max(-100, value)) * 10) / 10;
  });
}
