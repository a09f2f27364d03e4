import type { Results, SelfieSegmentation } from '@mediapipe/selfie_segmentation';
import type { PersonMap } from '@/media/cut-out';

/** Where `scripts/setup.sh` puts the model and its loader. */
const FOLDER = '/vision/';
/** The model gives 256×256 or less; what it says is asked for at this width. */
const WIDTH = 640;
/** Pixels across of the second look. */
const CLOSE = 256;

type Maker = new (config: { locateFile: (file: string) => string }) => SelfieSegmentation;

/** A picture to look for a person in; 0..255, four to a pixel. */
export interface Picture {
  width: number;
  height: number;
  rgba: Uint8ClampedArray<ArrayBuffer>;
}

let model: Promise<SelfieSegmentation> | null = null;

/** Loads the segmentation that ships with the product; its loader needs a page, so it does not run in a worker. */
function loadModel(): Promise<SelfieSegmentation> {
  model ??= new Promise<SelfieSegmentation>((done, fail) => {
    const script = document.createElement('script');
    script.src = `${FOLDER}selfie_segmentation.js`;
    script.onerror = () => {
      script.remove();
      model = null;
      fail(new Error('The person segmentation could not be loaded. Check the connection and try again, or draw around the figure.'));
    };
    script.onload = () => {
      const { SelfieSegmentation: Made } = globalThis as unknown as { SelfieSegmentation: Maker };
      const made = new Made({ locateFile: (file) => FOLDER + file });
      made.setOptions({ modelSelection: 0 });
      done(made);
    };
    document.head.append(script);
  });
  return model;
}

/** The model answers one at a time: whoever asks next waits. */
let line: Promise<unknown> = Promise.resolve();

/** What the model says of a canvas, at a size of its own. */
function asked(made: SelfieSegmentation, page: HTMLCanvasElement, width: number, height: number): Promise<Uint8Array> {
  const answer = line.then(() => answered(made, page, width, height));
  line = answer.catch(() => undefined);
  return answer;
}

async function answered(made: SelfieSegmentation, page: HTMLCanvasElement, width: number, height: number): Promise<Uint8Array> {
  const results = await new Promise<Results>((done, fail) => {
    made.onResults(done);
    made.send({ image: page }).catch(fail);
  });
  const small = document.createElement('canvas');
  [small.width, small.height] = [width, height];
  const pen = small.getContext('2d', { willReadFrequently: true });
  if (!pen) throw new Error('The browser gave no canvas to read the segmentation from.');
  pen.drawImage(results.segmentationMask, 0, 0, width, height);
  const { data } = pen.getImageData(0, 0, width, height);
  return Uint8Array.from({ length: width * height }, (_, i) => data[4 * i + 3]);
}

/**
 * Where a person is in a picture: how surely, 0..255, at a small size. The model looks twice, the second time at the person
 * alone, for it sees no more than 256 pixels across. The page stands still for about a second.
 */
export async function findPerson(picture: Picture): Promise<PersonMap> {
  const made = await loadModel();
  const page = document.createElement('canvas');
  [page.width, page.height] = [picture.width, picture.height];
  page.getContext('2d')?.putImageData(new ImageData(picture.rgba, picture.width, picture.height), 0, 0);
  const [width, height] = [WIDTH, Math.round((WIDTH * picture.height) / picture.width)];
  const sure = await asked(made, page, width, height);
  const box = boxAround(sure, width, height);
  if (!box) return { width, height, sure };
  const k = picture.width / width;
  const close = document.createElement('canvas');
  close.width = close.height = 2 * CLOSE;
  close.getContext('2d')?.drawImage(page, box.left * k, box.top * k, box.side * k, box.side * k, 0, 0, close.width, close.height);
  const near = await asked(made, close, CLOSE, CLOSE);
  const out = new Uint8Array(width * height);
  for (let y = Math.max(0, Math.ceil(box.top)); y < Math.min(height, box.top + box.side); y++)
    for (let x = Math.max(0, Math.ceil(box.left)); x < Math.min(width, box.left + box.side); x++) {
      const u = Math.min(CLOSE - 1, Math.floor(((x + 0.5 - box.left) / box.side) * CLOSE));
      const v = Math.min(CLOSE - 1, Math.floor(((y + 0.5 - box.top) / box.side) * CLOSE));
      out[y * width + x] = near[v * CLOSE + u];
    }
  return { width, height, sure: out };
}

/** A square around what is surely a person, with room for hands and hair; null with nobody there. */
function boxAround(sure: Uint8Array, width: number, height: number): { left: number; top: number; side: number } | null {
  let [left, top, right, bottom] = [width, height, -1, -1];
  sure.forEach((v, i) => {
    if (v < 128) return;
    const x = i % width;
    const y = (i - x) / width;
    [left, top, right, bottom] = [Math.min(left, x), Math.min(top, y), Math.max(right, x), Math.max(bottom, y)];
  });
  if (right < left) return null;
  const side = 1.25 * Math.max(right - left + 1, bottom - top + 1);
  return { left: (left + right + 1 - side) / 2, top: (top + bottom + 1 - side) / 2, side };
}
