import * as Comlink from 'comlink';
import { courseOf } from '@/media/course';
import { measureFall, measureTake } from '@/media/measuring';
import { syncMedia } from '@/media/syncing';

const api = { courseOf, measureTake, measureFall, syncMedia };
export type MeasureApi = typeof api;
Comlink.expose(api);
