import { create } from 'zustand';
import { useProject } from './store';

interface Installed {
  /** Whether the whole application is kept in the browser and opens without a network. */
  offline: 'no' | 'being fetched' | 'yes' | 'failed';
  /** A newer version that is ready here, or one that another tab has begun to use. */
  update: 'none' | 'ready' | 'begun';
}

export const useInstalled = create<Installed>(() => ({ offline: 'no', update: 'none' }));

let registration: ServiceWorkerRegistration | null = null;
let asked = false;

/** Milliseconds between two looks for a newer version. */
const LOOK_AGAIN = 60 * 60_000;

function follow(worker: ServiceWorker): void {
  const look = () => {
    if (worker.state === 'activated') useInstalled.setState({ offline: 'yes' });
    else if (worker.state === 'redundant' && useInstalled.getState().offline !== 'yes') useInstalled.setState({ offline: 'failed' });
    else if (worker.state === 'installed' && registration?.active) useInstalled.setState({ update: 'ready' });
  };
  look();
  worker.addEventListener('statechange', look);
}

/** Keeps the application in the browser, and watches for a newer version of it. */
export async function keepApplication(): Promise<void> {
  if (process.env.NODE_ENV !== 'production' || !('serviceWorker' in navigator) || registration) return;
  const controlled = navigator.serviceWorker.controller !== null;
  try {
    registration = await navigator.serviceWorker.register('/sw.js', { updateViaCache: 'none' });
  } catch {
    useInstalled.setState({ offline: controlled ? 'yes' : 'failed' });
    return;
  }
  if (registration.active) useInstalled.setState({ offline: 'yes' });
  else useInstalled.setState({ offline: 'being fetched' });
  if (registration.waiting && registration.active) useInstalled.setState({ update: 'ready' });
  if (registration.installing) follow(registration.installing);
  registration.addEventListener('updatefound', () => registration?.installing && follow(registration.installing));
  let mine = controlled;
  navigator.serviceWorker.addEventListener('controllerchange', () => {
    if (asked) location.reload();
    // The very first one takes over what is of its own version.
    else if (mine) useInstalled.setState({ update: 'begun' });
    mine = true;
  });
  setInterval(() => void registration?.update().catch(() => undefined), LOOK_AGAIN);
}

/** Goes over to the newer version once all is saved: the page is loaded anew. */
export async function goOver(): Promise<void> {
  for (let tries = 0; tries < 100; tries++) {
    const { saving, unsaved } = useProject.getState();
    if (!saving && !unsaved) break;
    await new Promise((again) => setTimeout(again, 100));
  }
  asked = true;
  if (registration?.waiting) registration.waiting.postMessage({ type: 'SKIP_WAITING' });
  else location.reload();
}

const SHARED = 'shared';

/** Takes in what other applications shared with this one; each is forgotten only when `take` is done. */
export async function takeShared(take: (files: File[]) => Promise<void>): Promise<void> {
  if (!('caches' in globalThis) || !(await caches.has(SHARED))) return;
  const cache = await caches.open(SHARED);
  const requests = await cache.keys();
  const files: File[] = [];
  for (const request of requests) {
    const answer = await cache.match(request);
    if (!answer) continue;
    const name = decodeURIComponent(answer.headers.get('X-Name') ?? 'shared');
    files.push(new File([await answer.blob()], name, { type: answer.headers.get('Content-Type') ?? '' }));
  }
  if (files.length === 0) return;
  await take(files);
  for (const request of requests) await cache.delete(request);
}

interface LaunchQueue {
  setConsumer(consumer: (launch: { files?: FileSystemFileHandle[] }) => void): void;
}

/** Told of files that the desktop opens with this application. */
export function onOpened(open: (file: File) => void): void {
  const { launchQueue } = window as unknown as { launchQueue?: LaunchQueue };
  launchQueue?.setConsumer(async ({ files }) => {
    for (const handle of files ?? []) open(await handle.getFile());
  });
}
