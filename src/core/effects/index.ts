export { curves } from './curves';
export {
  type AppliedEffect,
  appliedEffect,
  EFFECT_NAMES,
  EFFECTS,
  effectKind,
  foldedColour,
  scaledEffects,
  staysInPlace,
  withEffect,
} from './registry';
