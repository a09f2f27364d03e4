export { type FigureAt, overlap, photographBackground, restlessBackground, type StagedOptions, StagedTake } from './staged-take';
