import type { Metres, Pixels } from '../units';
import type { PlanCamera } from './schema';
import { capturedFrame, filmedArea } from './sensors';

/** A point of the set in metres: x right of the camera's axis, y above the floor, z away from the lens. */
export interface SetPoint {
  x: Metres;
  y: Metres;
  z: Metres;
}

export interface FramePoint {
  x: Pixels;
  y: Pixels;
  /** Distance along the optical axis; zero or less lies behind the camera. */
  depth: Metres;
}

/** The planned camera as a pinhole: between points of the set and pixels of the captured frame, as held. */
export interface View {
  width: Pixels;
  height: Pixels;
  /** Pixels a metre takes up at one metre's depth. */
  scale: number;
  project: (p: SetPoint) => FramePoint;
  /** The floor point seen at a pixel; null at and above the horizon. */
  floorAt: (x: Pixels, y: Pixels) => { x: Metres; z: Metres } | null;
  /** The point seen at a pixel in the upright plane at distance `z`. */
  planeAt: (x: Pixels, y: Pixels, z: Metres) => { x: Metres; y: Metres };
}

/** The view of a camera moved `dolly` metres forward along the floor, its picture scaled about the centre by `zoom`. */
export function viewOf(camera: PlanCamera, dolly: Metres = 0, zoom = 1): View {
  const { width, height } = capturedFrame(camera);
  const scale = (width / (filmedArea(camera).width / camera.focal)) * zoom;
  const tilt = (camera.tilt * Math.PI) / 180;
  const [c, s] = [Math.cos(tilt), Math.sin(tilt)];
  const ray = (px: Pixels, py: Pixels) => {
    const u = (px - width / 2) / scale;
    const v = (height / 2 - py) / scale;
    return { x: u, y: v * c + s, z: c - v * s };
  };
  return {
    width,
    height,
    scale,
    project: ({ x, y, z }) => {
      const [dy, dz] = [y - camera.height, z - dolly];
      const depth = dz * c + dy * s;
      const up = dy * c - dz * s;
      const k = scale / Math.max(depth, 1e-6);
      return { x: width / 2 + x * k, y: height / 2 - up * k, depth };
    },
    floorAt: (px, py) => {
      const d = ray(px, py);
      if (d.y > -1e-9) return null;
      const t = -camera.height / d.y;
      return { x: d.x * t, z: d.z * t + dolly };
    },
    planeAt: (px, py, z) => {
      const d = ray(px, py);
      const t = (z - dolly) / d.z;
      return { x: d.x * t, y: camera.height + d.y * t };
    },
  };
}
