import { type ChildProcess, spawn } from 'node:child_process';
import { existsSync } from 'node:fs';
import { createServer } from 'node:net';

/** A port nobody uses now. */
function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once('error', reject);
    probe.listen(0, '127.0.0.1', () => {
      const address = probe.address();
      probe.close(() => (address && typeof address === 'object' ? resolve(address.port) : reject(new Error('no port'))));
    });
  });
}

/** Starts the built application, or uses the one at RIBBON_URL; `stop` ends what was started. Throws a sentence when it was not built. */
export async function startServer(port?: number): Promise<{ url: string; stop: () => void }> {
  if (process.env.RIBBON_URL) return { url: process.env.RIBBON_URL, stop: () => undefined };
  if (!existsSync('.next/BUILD_ID')) throw new Error('The application is not built yet. Run: npm run build');
  const chosen = port ?? (await freePort());
  // On this machine only, unless asked otherwise: HOST=0.0.0.0 lets a phone on the same network in.
  const host = process.env.HOST ?? '127.0.0.1';
  const server: ChildProcess = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-H', host, '-p', String(chosen)], {
    stdio: 'ignore',
  });
  const url = `http://127.0.0.1:${chosen}`;
  const stop = () => {
    server.kill();
  };
  process.once('exit', stop);
  for (let tries = 0; tries < 150; tries++) {
    const answer = await fetch(`${url}/batch`).catch(() => null);
    if (answer?.ok) return { url, stop };
    if (server.exitCode !== null) break;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  stop();
  throw new Error(`The application did not start on port ${chosen}.`);
}
