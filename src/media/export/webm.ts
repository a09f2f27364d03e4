import { say } from '@/core/words';
import type { Container } from './container';

export const webm: Container = {
  id: 'webm',
  label: say`WebM (VP9, Opus)`,
  video: { codec: 'vp9', name: 'VP9' },
  audio: 'opus',
  growing: async () => {
    const { WebMOutputFormat } = await import('mediabunny');
    return new WebMOutputFormat();
  },
  whole: null,
};
