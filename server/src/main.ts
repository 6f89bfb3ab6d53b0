import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { createApp } from './app';
import { connect, migrate } from './db/connect';
import { seedDemo } from './demo';

const LOOPBACK = ['127.0.0.1', 'localhost', '::1'];

/** Starts the server: settings come from the environment, one line with the address goes to stdout. */
const main = async (): Promise<void> => {
  const log = pino({ level: process.env.BISTRE_LOG ?? 'info' }, pino.destination(2));
  const host = process.env.BISTRE_HOST ?? '127.0.0.1';
  if (!LOOPBACK.includes(host)) {
    process.stderr.write(
      `Bistre listens on this machine only (127.0.0.1) until it has sign-in; it will not listen on ${host}.\n`,
    );
    process.exit(2);
  }
  const url = process.env.DATABASE_URL;
  if (!url) throw new Error('DATABASE_URL is not set; npm start sets it');
  const db = connect(url);
  await migrate(db);
  await db
    .deleteFrom('replies')
    .where('at', '<', new Date(Date.now() - 86_400_000))
    .execute();
  if (process.env.BISTRE_EMPTY !== '1') await seedDemo(db);
  const pages = fileURLToPath(new URL('../../web/dist', import.meta.url));
  const app = createApp(db, log, pages);
  const wanted = Number(process.env.PORT ?? 4173);
  const listen = (port: number, triesLeft: number): void => {
    const server = app.listen(port, host);
    server.on('listening', () => {
      const address = server.address();
      const real = typeof address === 'object' && address ? address.port : port;
      if (real !== wanted && wanted !== 0) process.stdout.write(`Port ${wanted} is taken; using ${real}.\n`);
      process.stdout.write(`Bistre is ready at http://localhost:${real}\n`);
    });
    server.on('error', (error: NodeJS.ErrnoException) => {
      if (error.code === 'EADDRINUSE' && triesLeft > 0) listen(port + 1, triesLeft - 1);
      else throw error;
    });
    const stop = (): void => {
      server.close(() => void db.destroy().then(() => process.exit(0)));
      server.closeIdleConnections();
      setTimeout(() => process.exit(0), 2_000).unref();
    };
    process.on('SIGINT', stop);
    process.on('SIGTERM', stop);
  };
  listen(wanted, 20);
};

main().catch((error: unknown) => {
  process.stderr.write(`Bistre could not start: ${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
