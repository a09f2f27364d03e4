'use client';
import { useEffect, useState } from 'react';
import { lightWords } from '@/core/measure';
import { say } from '@/core/words';
import { useCamera } from '@/data/camera';

/** One figure, to be read from four metres. */
function Figure({ name, value, level }: { name: string; value: string; level: 'good' | 'bad' | 'none' }) {
  const look = { good: 'text-good', bad: 'text-mark', none: 'text-faint' }[level];
  return (
    <div>
      <p className="text-sm text-faint">{name}</p>
      <p className={`num text-2xl leading-tight font-semibold sm:text-4xl ${look}`}>{value}</p>
    </div>
  );
}

/** How far the device leans from level, degrees; null where the browser does not tell. */
function useLean(): number | null {
  const [lean, setLean] = useState<number | null>(null);
  useEffect(() => {
    const onTurn = ({ beta, gamma }: DeviceOrientationEvent) => {
      if (beta === null || gamma === null) return;
      // Held upright it leans by gamma; lying on its side by beta.
      const lying = Math.abs(gamma) > 45;
      setLean(lying ? beta : gamma);
    };
    window.addEventListener('deviceorientation', onTurn);
    return () => window.removeEventListener('deviceorientation', onTurn);
  }, []);
  return lean;
}

/** The live figures: lock, light, clipping, pose. */
export function LiveFigures() {
  const { reading, pose, width, bumps } = useCamera();
  const lean = useLean();
  const limit = (0.5 * Math.max(width, 1)) / 1280;
  const lock = reading?.lock;
  return (
    <div className="mt-3">
      <div className="grid grid-cols-2 gap-x-6 gap-y-2 sm:grid-cols-4" data-testid="live-figures">
        <Figure
          name={say`Lock figure`}
          value={!reading ? say`no set-up yet` : lock?.trusted ? `${reading.corner.toFixed(2)} px` : say`hidden`}
          level={!lock?.trusted ? 'none' : (reading?.corner ?? 0) > limit ? 'bad' : 'good'}
        />
        <Figure
          name={say`Light`}
          value={reading?.light ? lightWords(reading.light) : '–'}
          level={!reading?.light ? 'none' : Math.abs(reading.light.exposure) > 0.1 ? 'bad' : 'good'}
        />
        <Figure
          name={say`Blown out`}
          value={reading ? `${(100 * reading.blown).toFixed(1)} %` : '–'}
          level={!reading ? 'none' : reading.blown > 0.02 ? 'bad' : 'good'}
        />
        <Figure
          name={say`Pose match`}
          value={pose ? `${Math.round(100 * pose.match)} %` : '–'}
          level={!pose ? 'none' : pose.match > 0.8 ? 'good' : 'bad'}
        />
        {lean !== null && <Figure name={say`Level`} value={`${lean.toFixed(1)}°`} level={Math.abs(lean) > 1 ? 'bad' : 'good'} />}
      </div>
      {lock?.trusted && reading && (
        <p className="num mt-1 text-sm text-faint">
          {say`shift ${lock.dx.toFixed(2)}, ${lock.dy.toFixed(2)} px; turn ${lock.turn.toFixed(3)}°; scale ${(100 * lock.scale).toFixed(2)} %${
            pose && (Math.abs(pose.dx) > 4 || Math.abs(pose.dy) > 4)
              ? say`; for the pose move ${pose.dx > 0 ? 'right' : 'left'} ${Math.abs(pose.dx)} px`
              : ''
          }`}
        </p>
      )}
      {bumps.map((b) => (
        <p
          key={b.time}
          className="mt-1 font-semibold text-mark"
          role="alert"
        >{say`The camera was knocked: ${b.size.toFixed(1)} px at ${b.time.toFixed(1)} s.`}</p>
      ))}
    </div>
  );
}
