export { type FigureAt, overlap, photographBackground, type StagedOptions, StagedTake } from './staged-take';
