export { restsAt, STAGED_FACTS, STAGED_FALL, stagedMove } from './moves';
export { drawPerson, hedge } from './person';
export { stagedMedia, stagedProject } from './project';
export { edgeOff, type FigureAt, overlap, photographBackground, restlessBackground, type StagedOptions, StagedTake } from './staged-take';
