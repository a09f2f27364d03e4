import type { Results, SelfieSegmentation } from '@mediapipe/selfie_segmentation';
import * as Comlink from 'comlink';
import { say } from '@/core/words';
import type { PersonMap } from '@/media/cut-out';
import { findPerson } from '@/media/person';
import type { Picture } from '@/media/picture';

/** Where `scripts/setup.sh` puts the model and its loader. */
const FOLDER = '/vision/';
const MISSING = say`The person segmentation could not be loaded. Check the connection and try again, or draw around the figure.`;

type Maker = new (config: { locateFile: (file: string) => string }) => SelfieSegmentation;
const scope = self as unknown as { SelfieSegmentation?: Maker; importScripts(url: string): void };

/** As much of a page as the loader asks for: scripts to load, a canvas to compute on, and events that never come. */
function asPage(): object {
  const script = () => {
    const heard: Record<string, () => void> = {};
    return {
      url: '',
      heard,
      setAttribute(name: string, value: string) {
        if (name === 'src') this.url = value;
      },
      addEventListener(name: string, listener: () => void) {
        heard[name] = listener;
      },
    };
  };
  return {
    createElement: (name: string) => (name === 'canvas' ? new OffscreenCanvas(1, 1) : script()),
    body: {
      appendChild(child: ReturnType<typeof script>) {
        scope.importScripts(child.url);
        child.heard.load?.();
      },
    },
    addEventListener: () => undefined,
    getElementById: () => null,
    querySelector: () => null,
  };
}

let model: SelfieSegmentation | null = null;

/** The segmentation that ships with the product. What its loader does in a worker leaves the model out, so it is shown a page. */
function loaded(): SelfieSegmentation {
  if (model) return model;
  Object.assign(self, { window: self, document: asPage() });
  scope.importScripts(`${FOLDER}selfie_segmentation.js`);
  if (!scope.SelfieSegmentation) throw new Error(MISSING);
  const made = new scope.SelfieSegmentation({ locateFile: (file) => FOLDER + file });
  made.setOptions({ modelSelection: 0 });
  model = made;
  return made;
}

/** The model answers one at a time: whoever asks next waits. */
let line: Promise<unknown> = Promise.resolve();

async function segmented(page: OffscreenCanvas): Promise<CanvasImageSource> {
  try {
    const made = loaded();
    return await new Promise((done, fail) => {
      made.onResults((results: Results) => done(results.segmentationMask as CanvasImageSource));
      made.send({ image: page as unknown as HTMLCanvasElement }).catch(fail);
    });
  } catch (error) {
    model = null;
    throw new Error(MISSING, { cause: error });
  }
}

const api = {
  find(picture: Picture): Promise<PersonMap> {
    const answer = line.then(() => findPerson(segmented, picture));
    line = answer.catch(() => undefined);
    return answer;
  },
};
export type PersonApi = typeof api;
Comlink.expose(api);
