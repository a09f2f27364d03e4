/** Serves the built application; its first page plays the demo's film and opens it. */
import { startServer } from './server';

const { url } = await startServer(Number(process.env.PORT ?? 3000));
console.log(
  `Fickle Ribbon is open at ${url.replace('127.0.0.1', 'localhost')}. The first page plays the demo, a night laundrette, and opens it. Ctrl C ends it.`,
);
await new Promise(() => undefined);
