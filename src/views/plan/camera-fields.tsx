'use client';
import {
  angleOfView,
  circleOfConfusion,
  F_NUMBERS,
  filmedArea,
  focalFor,
  ISO_SPEEDS,
  type PlanCamera,
  readAperture,
  readIso,
  readShutter,
  SENSORS,
  SHUTTERS,
  shutterLabel,
} from '@/core/plan';
import { say } from '@/core/words';
import { changePlan } from '@/data/plans';
import { NumberField } from '@/ui/controls';
import { SelectField, ValueField } from '@/ui/value-field';
import { type FieldsProps, Group, LengthField } from './length-field';

/** The neighbour of a value in a camera's own steps. */
function stepIn(list: readonly number[], value: number, direction: 1 | -1): number {
  const sorted = [...list].sort((a, b) => a - b);
  const nearest = sorted.reduce((best, v, i) => (Math.abs(Math.log(v / value)) < Math.abs(Math.log(sorted[best] / value)) ? i : best), 0);
  return sorted[Math.min(sorted.length - 1, Math.max(0, nearest + direction))];
}

const CAPTURES = [
  ['1280 720', '1280 × 720'],
  ['1920 1080', '1920 × 1080'],
  ['2560 1440', '2560 × 1440'],
  ['3840 2160', '3840 × 2160'],
  ['4096 2160', '4096 × 2160'],
  ['5120 2880', '5120 × 2880'],
  ['7680 4320', '7680 × 4320'],
] as const;

/** Sensor, lens, exposure and picture of the planned camera. */
export function CameraFields({ project, plan }: FieldsProps) {
  const { camera } = plan;
  const unit = project.units;
  const set = (label: string, change: Partial<PlanCamera>) => changePlan(plan.id, label, (p) => void Object.assign(p.camera, change));
  const area = filmedArea(camera);
  const capture = `${camera.captureWidth} ${camera.captureHeight}`;
  const preset = SENSORS.findIndex((s) => s.width === camera.sensor.width && s.height === camera.sensor.height);
  return (
    <Group title={say`Camera`} open>
      <SelectField
        label={say`Sensor`}
        value={String(preset)}
        options={[
          ...SENSORS.map((s, i) => [String(i), s.name] as const),
          ['-1', say`Own size ${camera.sensor.width} × ${camera.sensor.height}`],
        ]}
        onChange={(v) => Number(v) >= 0 && set(say`Choose the sensor`, { sensor: { ...SENSORS[Number(v)] } })}
      />
      <NumberField
        label={say`Sensor width`}
        unit="mm"
        value={camera.sensor.width}
        min={1}
        max={80}
        step={0.1}
        digits={1}
        onChange={(v) => set(say`Set the sensor`, { sensor: { ...camera.sensor, name: say`Own size`, width: v } })}
      />
      <NumberField
        label={say`Sensor height`}
        unit="mm"
        value={camera.sensor.height}
        min={1}
        max={80}
        step={0.1}
        digits={1}
        onChange={(v) => set(say`Set the sensor`, { sensor: { ...camera.sensor, name: say`Own size`, height: v } })}
      />
      <NumberField
        label={say`Focal length`}
        unit="mm"
        value={camera.focal}
        min={1}
        max={1200}
        step={1}
        digits={1}
        onChange={(v) => set(say`Choose the lens`, { focal: v })}
      />
      <NumberField
        label={say`Angle across`}
        unit="°"
        value={angleOfView(area.width, camera.focal)}
        min={1}
        max={140}
        step={1}
        digits={1}
        onChange={(v) => set(say`Choose the angle of view`, { focal: Math.round(10 * focalFor(area.width, v)) / 10 })}
      />
      <SelectField
        label={say`Held`}
        value={camera.orientation}
        options={[
          ['lying', say`lying`],
          ['upright', say`upright`],
        ]}
        onChange={(v) => set(say`Turn the camera`, { orientation: v as PlanCamera['orientation'] })}
      />
      <LengthField
        label={say`Lens height`}
        unit={unit}
        value={camera.height}
        min={0.05}
        max={10}
        onChange={(v) => set(say`Set the height of the lens`, { height: v })}
      />
      <NumberField
        label={say`Tilt, up is plus`}
        unit="°"
        value={camera.tilt}
        min={-60}
        max={60}
        step={1}
        digits={1}
        onChange={(v) => set(say`Tilt the camera`, { tilt: v })}
      />
      <LengthField
        label={say`Focus at`}
        unit={unit}
        value={camera.focus}
        min={0.05}
        max={100}
        onChange={(v) => set(say`Set the focus`, { focus: v })}
      />
      <ValueField
        label={say`Aperture`}
        shown={`f/${camera.aperture}`}
        read={readAperture}
        example="f/5.6"
        onChange={(v) => set(say`Set the aperture`, { aperture: v })}
        nudge={(d) => stepIn(F_NUMBERS, camera.aperture, d)}
      />
      <ValueField
        label={say`Shutter`}
        shown={shutterLabel(camera.shutter)}
        read={(t) => readShutter(t, camera.captureFps)}
        example={say`1/50 or 180°`}
        onChange={(v) => set(say`Set the shutter`, { shutter: v })}
        nudge={(d) => 1 / stepIn(SHUTTERS, 1 / camera.shutter, d)}
      />
      <ValueField
        label={say`ISO`}
        shown={say`ISO ${camera.iso}`}
        read={readIso}
        example={say`ISO 800`}
        onChange={(v) => set(say`Set the ISO`, { iso: v })}
        nudge={(d) => stepIn(ISO_SPEEDS, camera.iso, d)}
      />
      <SelectField
        label={say`Picture size`}
        value={capture}
        options={CAPTURES.some(([key]) => key === capture) ? CAPTURES : [...CAPTURES, [capture, capture.replace(' ', ' × ')]]}
        onChange={(v) => {
          const [captureWidth, captureHeight] = v.split(' ').map(Number);
          set(say`Choose the picture size`, { captureWidth, captureHeight });
        }}
      />
      <NumberField
        label={say`Frames a second`}
        unit="fps"
        value={camera.captureFps}
        min={1}
        max={1000}
        step={1}
        digits={camera.captureFps % 1 ? 2 : 0}
        onChange={(v) => set(say`Choose the frame rate`, { captureFps: v })}
      />
      <SelectField
        label={say`Mains`}
        value={String(camera.mains)}
        options={[
          ['50', say`50 Hz`],
          ['60', say`60 Hz`],
        ]}
        onChange={(v) => set(say`Choose the mains`, { mains: Number(v) as 50 | 60 })}
      />
      <p className="col-span-full text-sm text-faint">{say`Sharp means: a blur of at most ${circleOfConfusion(camera.sensor).toFixed(4)} mm on the sensor.`}</p>
    </Group>
  );
}
