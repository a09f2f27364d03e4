import { say } from '../words';
import type { PlanCamera } from './schema';

export type Sensor = PlanCamera['sensor'];

/** Common sensor sizes in millimetres. Common practice; makers differ by some tenths, so the numbers can be overtyped. */
export const SENSORS: readonly Sensor[] = [
  { name: say`Full frame 36 × 24`, width: 36, height: 24 },
  { name: say`Cine 35 mm, 24.9 × 18.7`, width: 24.9, height: 18.7 },
  { name: say`Crop 1.5, 23.5 × 15.6`, width: 23.5, height: 15.6 },
  { name: say`Four thirds 17.3 × 13`, width: 17.3, height: 13 },
  { name: say`One inch type 13.2 × 8.8`, width: 13.2, height: 8.8 },
  { name: say`Phone, large main 9.8 × 7.3`, width: 9.8, height: 7.3 },
  { name: say`Phone, main 7.0 × 5.3`, width: 7, height: 5.3 },
  { name: say`Phone, small 5.6 × 4.2`, width: 5.6, height: 4.2 },
];

/** Largest blur that still looks sharp, millimetres: the diagonal over 1442, which gives 36 × 24 its usual 0.030 (common practice). */
export function circleOfConfusion(sensor: Sensor): number {
  return Math.hypot(sensor.width, sensor.height) / 1442;
}

/** Width and height in millimetres of the part of the sensor that is filmed: the full width, cut or narrowed to the capture's shape, as held. */
export function filmedArea(camera: PlanCamera): { width: number; height: number } {
  const { sensor, captureWidth, captureHeight, orientation } = camera;
  const shape = Math.max(captureWidth, captureHeight) / Math.min(captureWidth, captureHeight);
  const long = Math.min(sensor.width, sensor.height * shape);
  const short = long / shape;
  return orientation === 'lying' ? { width: long, height: short } : { width: short, height: long };
}

/** Width and height of the captured picture in pixels, as held. */
export function capturedFrame(camera: PlanCamera): { width: number; height: number } {
  const long = Math.max(camera.captureWidth, camera.captureHeight);
  const short = Math.min(camera.captureWidth, camera.captureHeight);
  return camera.orientation === 'lying' ? { width: long, height: short } : { width: short, height: long };
}
