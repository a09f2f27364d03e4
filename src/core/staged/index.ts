export { type FigureAt, photographBackground, type StagedOptions, StagedTake } from './staged-take';
