export { buildReveal, type MeasuredFall, meanPath, movedShot } from './build-shot';
export { followLine, retimedLine } from './curtain-reveal';
export { rehung } from './rehang';
export { slideProject } from './slide';
