export { makeSound } from './make';
export { SOUND_KINDS, type SoundKind, VOICES } from './voices';
