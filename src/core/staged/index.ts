export { drawPerson, hedge } from './person';
export { type FigureAt, overlap, photographBackground, restlessBackground, type StagedOptions, StagedTake } from './staged-take';
