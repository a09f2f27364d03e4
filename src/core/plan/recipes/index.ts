import type { Recipe } from '../recipe';
import { CLONES } from './clones';
import { CURTAIN_REVEAL } from './curtain';
import { DOLLY_ZOOM } from './dolly-zoom';
import { FREEZE_STACK } from './freeze-stack';
import { HIDDEN_FILL } from './hidden-fill';
import { IMPACT } from './impact';
import { ISOLATE } from './isolate';
import { ORBIT } from './orbit';
import { PASSING_WIPE } from './passing-wipe';
import { POSE_RAMP } from './pose-ramp';
import { REFLECTION } from './reflection';
import { SPLIT_SCREENS } from './split-screens';
import { STRUCK_OBJECT } from './struck-object';
import { TAKE_OFF } from './take-off';
import { THINGS_ARRIVE } from './things-arrive';
import { TRAIL } from './trail';
import { VANISH } from './vanish';
import { WHIP } from './whip';

/** All recipes. One more is one more file and one more line here. */
export const RECIPES: readonly Recipe[] = [
  CLONES,
  REFLECTION,
  CURTAIN_REVEAL,
  PASSING_WIPE,
  HIDDEN_FILL,
  THINGS_ARRIVE,
  FREEZE_STACK,
  TAKE_OFF,
  STRUCK_OBJECT,
  VANISH,
  WHIP,
  POSE_RAMP,
  TRAIL,
  DOLLY_ZOOM,
  IMPACT,
  SPLIT_SCREENS,
  ORBIT,
  ISOLATE,
];
