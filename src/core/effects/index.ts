export { type AppliedEffect, appliedEffect, EFFECT_NAMES, EFFECTS, effectKind, foldedColour, scaledEffects, withEffect } from './registry';
