import * as Comlink from 'comlink';
import { planDay } from '@/core/plan';

const api = { planDay };
export type PlanApi = typeof api;
Comlink.expose(api);
