import type { Project, Shot, Transition } from '../document';
import { placeFrame, type Scene } from '../layer';
import { type Coverage, ellipsePoints, lineExtent, lineNormal, STAY } from '../picture';
import type { Frames, Unit } from '../units';
import type { LayerDescription, PictureDescription } from './description';
import { pictureLayer } from './picture-layer';
import { shotFrames } from './shot-scene';

/** Two shots in the middle of a transition: the one that goes, if there is one, the one that comes, and how far it has come. */
export interface Between {
  leaving: Shot | null;
  coming: Shot;
  transition: Transition;
  done: Unit;
}

/** The transition that a film frame lies in; `shown` gives the shot seen on a frame. Null between none. */
export function transitionAt(project: Project, frame: Frames, shown: (frame: Frames) => Shot | null): Between | null {
  for (const coming of project.shots) {
    const { transition } = coming;
    if (!transition) continue;
    const [cut] = shotFrames(project, coming);
    const from = cut - (transition.frames >> 1);
    if (frame < from || frame >= from + transition.frames) continue;
    // Only where it is seen at its cut: another shot may lie over it.
    if (shown(cut)?.id !== coming.id) continue;
    const before = cut > 0 ? shown(cut - 1) : null;
    return { leaving: before?.id === coming.id ? null : before, coming, transition, done: (frame - from + 0.5) / transition.frames };
  }
  return null;
}

/** A shot as it would go on before its first frame and after its last. */
export function goneOnBeyond(scene: Scene, shot: Shot, by: Frames): { scene: Scene; shot: Shot } {
  return {
    scene: { ...scene, first: scene.first - by, end: scene.end + by },
    shot: {
      ...shot,
      layers: shot.layers.map((layer) => ({
        ...layer,
        from: layer.from && placeFrame(scene, layer.from) <= scene.first ? null : layer.from,
        to: layer.to && placeFrame(scene, layer.to) >= scene.end ? null : layer.to,
      })),
    },
  };
}

/** One frame of a transition: `leaving` below (black where there is none), `coming` over it as far as it has come; `within` is what its mask lets through now, null where it has none. */
export function transitionPicture(
  transition: Transition,
  leaving: PictureDescription | null,
  coming: PictureDescription,
  done: Unit,
  within: Coverage | null = null,
): PictureDescription {
  const { width, height } = coming;
  const below = leaving ? [pictureLayer(leaving, 'leaving')] : [];
  const eased = done * done * (3 - 2 * done);
  const over = (more: Partial<LayerDescription>): PictureDescription => ({
    ...coming,
    shotId: 'transition',
    layers: [...below, pictureLayer(coming, 'coming', more)],
  });
  const { r, g, b, angle } = transition;
  switch (transition.kind) {
    case 'dissolve':
      return over({ opacity: done });
    case 'dip': {
      const shown = done < 0.5 ? below : [pictureLayer(coming, 'coming')];
      const colour: LayerDescription = {
        ...pictureLayer(coming, 'colour'),
        source: { kind: 'colour', r, g, b },
        opacity: 1 - Math.abs(2 * done - 1),
      };
      return { ...coming, shotId: 'transition', layers: [...shown, colour] };
    }
    case 'slide': {
      const [nx, ny] = lineNormal(angle);
      // Far enough that nothing of it is seen at the beginning.
      const far = (1 - eased) * Math.min(width / Math.max(1e-6, Math.abs(nx)), height / Math.max(1e-6, Math.abs(ny)));
      return over({ map: { ...STAY, c: nx * far, f: ny * far } });
    }
    case 'wipe': {
      const extent = lineExtent(angle, width, height);
      const feather = 0.04 * height;
      return over({ coverage: { kind: 'line', angle, position: (eased - 0.5) * (extent + feather), feather } });
    }
    case 'mask':
      // A mask that is gone leaves a plain cut.
      if (!within) return done < 0.5 ? { ...coming, shotId: 'transition', layers: below } : over({});
      return over({ coverage: within });
    case 'iris': {
      const radius = eased * (Math.hypot(width, height) / 2 + 0.02 * height);
      return over({
        coverage: { kind: 'shape', points: ellipsePoints(width / 2, height / 2, radius, radius, 0), inside: 0, outside: 0.02 * height },
      });
    }
  }
}
