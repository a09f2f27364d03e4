export { figureLimbs, limbDistance, limbLight, OUTFITS, poseAt } from './figure';
export { LiveRoom } from './live';
export { randomAt, randomSource } from './random';
export { synthesiseSong } from './song';
export { bump, type CameraPose, RoomCamera, STILL, type TakeOptions, takeFall } from './take';
