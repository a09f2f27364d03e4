export type { FactId, Facts, MeasuredFall, PictureBox } from './facts';
export type { Course, Field, ListField, MeasureField, NumberField } from './fields';
export { evened, type FigureBox, highestRise, touchDown } from './figure-course';
export { smoothPath } from './follow';
export type { MoveContext, Problem, SoundCue, TakeUse } from './kind';
export { fromPreset, presetOf, readPresets } from './presets';
export { kindOf, MOVES, type Move, type MoveOf, moveSchema } from './registry';
export { beatsIn, frames, onBeat } from './spans';
