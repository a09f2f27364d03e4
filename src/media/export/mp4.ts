import { say } from '@/core/words';
import { type Container, FRAGMENT } from './container';

export const mp4: Container = {
  id: 'mp4',
  label: say`MP4 (H.264, AAC)`,
  video: { codec: 'avc', name: 'H.264' },
  audio: 'aac',
  growing: async () => {
    const { Mp4OutputFormat } = await import('mediabunny');
    return new Mp4OutputFormat({ fastStart: 'fragmented', minimumFragmentDuration: FRAGMENT });
  },
  whole: async () => {
    const { Mp4OutputFormat } = await import('mediabunny');
    return new Mp4OutputFormat({ fastStart: false });
  },
};
