import { fileURLToPath } from 'node:url';
import pino from 'pino';
import { createApp } from './app';
import { backupBeforeMigration, backupOften } from './backup/keep';
import { connect, migrate } from './db/connect';
import { seedDemo } from './demo';
import { sweepNow, sweepOften } from './sweep';
import { threadsOf } from './work/limits';
import { createWorkers } from './work/pool';

const LOOPBACK = ['127.0.0.1', 'localhost', '::1'];
/** How long a request may take to arrive, whole and its head, ms. */
const ARRIVAL = { whole: 120_000, head: 20_000 } as const;
/** How long answers that are under way may take when the server stops, ms. */
const LAST_ANSWERS = 2_000;

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
  const backups = process.env.BISTRE_BACKUPS;
  const kept = backups ? await backupBeforeMigration(url, backups) : null;
  if (kept) process.stdout.write(`A copy of the data as they were is in ${kept}.\n`);
  await migrate(url);
  const db = connect(url);
  await sweepNow(db);
  const stopSweeping = sweepOften(db, log);
  if (process.env.BISTRE_EMPTY !== '1') await seedDemo(db);
  const stopCopying = backups ? backupOften(url, backups, log) : () => undefined;
  const threads = threadsOf(process.env.BISTRE_THREADS);
  const workers = createWorkers(fileURLToPath(new URL('.', import.meta.url)), url, threads);
  const pages = fileURLToPath(new URL('../../web/dist', import.meta.url));
  const app = createApp({ db, workers }, log, pages);
  const wanted = Number(process.env.PORT ?? 4173);
  const listen = (port: number, triesLeft: number): void => {
    const server = app.listen(port, host);
    server.requestTimeout = ARRIVAL.whole;
    server.headersTimeout = ARRIVAL.head;
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
      stopSweeping();
      stopCopying();
      server.close(() => void Promise.all([workers.close(), db.destroy()]).then(() => process.exit(0)));
      server.closeIdleConnections();
      setTimeout(() => process.exit(0), LAST_ANSWERS).unref();
    };
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, stop);
    // Started by npm start, it ends with it, however that ended.
    if (process.env.BISTRE_ENDS_WITH_PARENT === '1') process.on('disconnect', stop);
  };
  listen(wanted, process.env.BISTRE_ONE_PORT === '1' ? 0 : 20);
};

main().catch((error: unknown) => {
  process.stderr.write(`Bistre could not start: ${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
