export { analyseSong, ENERGY_RATE, type SongAnalysis } from './analyse';
export { beatFMeasure } from './fmeasure';
export { toAnalysisRate } from './onset';
