import { say } from '@/core/words';
import type { Container } from './container';
import { mp4 } from './mp4';
import { webm } from './webm';

/** Every kind of film file that can be written, the usual one first. */
export const CONTAINERS: readonly Container[] = [mp4, webm];

/** The kind of film file of an ending or a file's name. */
export function containerOf(name: string): Container {
  const known = CONTAINERS.find(({ id }) => name === id || name.endsWith(`.${id}`));
  if (!known) throw new Error(say`Films are not written as ${name}: only as ${CONTAINERS.map(({ id }) => id).join(' or ')}.`);
  return known;
}
