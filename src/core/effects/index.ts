export { curves } from './curves';
export {
  type AppliedEffect,
  appliedEffect,
  clearedBy,
  EFFECT_NAMES,
  EFFECTS,
  effectKind,
  foldedColour,
  isClearing,
  scaledEffects,
  staysInPlace,
  tablesOf,
  withEffect,
} from './registry';
