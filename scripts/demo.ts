/** Serves the built application; its first start opens the demo project. */
import { startServer } from './server';

const { url } = await startServer(Number(process.env.PORT ?? 3000));
console.log(
  `Fickle Ribbon is open at ${url.replace('127.0.0.1', 'localhost')}. The first start opens the demo, a night laundrette. Ctrl C ends it.`,
);
await new Promise(() => undefined);
