export { drawPerson, hedge, type PersonAt } from './person';
export { type FigureAt, overlap, photographBackground, restlessBackground, type StagedOptions, StagedTake } from './staged-take';
