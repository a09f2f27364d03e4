'use client';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Project, Shot } from '@/core/document';

interface PictureAids {
  /** Thirds and the middle. */
  guides: boolean;
  /** What screens and players leave free. */
  safe: boolean;
  /** Film frames before and after that are seen through the picture, 0 for none. */
  before: number;
  after: number;
  /** Waveform, vectorscope and histogram. */
  scopes: boolean;
  /** The film without masks and effects. */
  bare: boolean;
}

const NONE: PictureAids = { guides: false, safe: false, before: 0, after: 0, scopes: false, bare: false };

/** What is shown over the film's picture; kept in this browser, nothing of it is in the project or the film. */
export const usePictureAids = create<PictureAids>()(
  persist(() => NONE, { name: 'picture-aids', partialize: ({ bare: _, ...kept }) => kept }),
);

export const noAids = () => usePictureAids.setState(NONE);

const known = new WeakMap<Project, Project>();

/** The project as it would be with no masks and effects; the same again for the same project. */
export function bared(project: Project): Project {
  const own = (shot: Shot): Shot => ({ ...shot, layers: shot.layers.map((layer) => ({ ...layer, masks: [], effects: [] })) });
  const bare = known.get(project) ?? { ...project, shots: project.shots.map(own), nestedShots: project.nestedShots.map(own) };
  known.set(project, bare);
  return bare;
}
