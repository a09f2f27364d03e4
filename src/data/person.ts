import type { PersonMap } from '@/media/cut-out';
import type { Picture } from '@/media/picture';
import type { PersonApi } from '@/workers/person.worker';
import { KeptWorker } from './kept-worker';

/** Built by `scripts/vision.ts`, beside the model it loads. */
const WORKER = '/vision/person.worker.js';

const worker = new KeptWorker<PersonApi>(() => new Worker(WORKER));

/** Where a person is in a picture: how surely, 0..255, at a small size. One is looked for at a time. */
export function findPerson(picture: Picture): Promise<PersonMap> {
  return worker.call((api) => api.find(picture) as Promise<PersonMap>);
}
