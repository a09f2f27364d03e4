export { EASING_NAMES, type EasingName } from './easing';
export { sourceTime } from './speed';
export { type Keyframe, simplify, type Track, valueAt, withKey, withoutKey } from './track';
