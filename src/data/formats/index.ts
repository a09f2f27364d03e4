import { CONTAINERS } from '@/media/export';
import { filmAs } from './film';
import type { ExportFormat } from './format';
import { png } from './png';
import { projectFile } from './project';

/** Every kind of file that leaves the application, in the order in which they are offered. */
export const FORMATS: readonly ExportFormat[] = [...CONTAINERS.map(filmAs), png, projectFile];

export type { ExportFormat } from './format';
