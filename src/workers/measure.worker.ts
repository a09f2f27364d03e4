import * as Comlink from 'comlink';
import { measureFall, measureTake } from '@/media/measuring';
import { syncMedia } from '@/media/syncing';

const api = { measureTake, measureFall, syncMedia };
export type MeasureApi = typeof api;
Comlink.expose(api);
