import type { MetadataRoute } from 'next';
import { say } from '@/core/words';

type Handlers = { file_handlers: { action: string; accept: Record<string, string[]>; launch_type: string }[] };

export default function manifest(): MetadataRoute.Manifest & Handlers {
  return {
    id: '/',
    name: say`Fickle Ribbon`,
    short_name: say`Fickle Ribbon`,
    description: say`Film several takes, put them together on the beat: plan, shoot, measure, score, check and deliver.`,
    start_url: '/plan',
    scope: '/',
    display: 'standalone',
    background_color: '#f3ecdf',
    theme_color: '#f3ecdf',
    icons: [
      { src: '/icons/192.png', sizes: '192x192', type: 'image/png' },
      { src: '/icons/512.png', sizes: '512x512', type: 'image/png' },
      { src: '/icons/maskable.png', sizes: '512x512', type: 'image/png', purpose: 'maskable' },
    ],
    share_target: {
      action: '/share',
      method: 'POST',
      enctype: 'multipart/form-data',
      params: { files: [{ name: 'films', accept: ['video/*', 'audio/*'] }] },
    },
    file_handlers: [{ action: '/score', accept: { 'application/zip': ['.zip'] }, launch_type: 'single-client' }],
  } as MetadataRoute.Manifest & Handlers;
}
