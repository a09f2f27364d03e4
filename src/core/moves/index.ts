export { buildReveal, type MeasuredFall, meanPath, movedShot, reanchored } from './build-shot';
export { followLine, retimedLine } from './curtain-reveal';
