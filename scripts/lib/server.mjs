// The server's process: a free port, start, stop.
import { spawn } from 'node:child_process';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { Refusal, root } from './say.mjs';

/** The first free port of loopback from a number on; any free one from 0. */
export const freePort = (from = 0) =>
  new Promise((done) => {
    const probe = createServer();
    probe.on('error', () => done(freePort(from === 0 ? 0 : from + 1)));
    probe.listen(from, '127.0.0.1', () => {
      const { port } = probe.address();
      probe.close(() => done(port));
    });
  });

/**
 * Starts the built server; resolves with its address once it says that it is ready. The server ends with this
 * process, however that ends.
 */
export const startServer = (env, { quiet = false, onSpawn = () => undefined } = {}) =>
  new Promise((done, reject) => {
    const child = spawn(process.execPath, ['--enable-source-maps', join(root, 'server/dist/main.mjs')], {
      cwd: root,
      env: { ...process.env, ...env, BISTRE_ENDS_WITH_PARENT: '1' },
      stdio: ['ignore', 'pipe', quiet ? 'pipe' : 'inherit', 'ipc'],
    });
    onSpawn(child);
    let output = '';
    let errors = '';
    child.stderr?.on('data', (chunk) => (errors = `${errors}${chunk}`.slice(-4000)));
    child.stdout.on('data', (chunk) => {
      if (output.length < 4000) output += chunk;
      if (!quiet) process.stdout.write(chunk);
      const match = /ready at (\S+)/.exec(output);
      if (match) done({ child, address: match[1] });
    });
    child.on('exit', (code, signal) =>
      reject(new Refusal(`The server stopped (${signal ?? `code ${code}`}) before it was ready.\n${errors}`.trim())),
    );
  });

export const stopChild = (child) =>
  new Promise((done) => {
    if (!child || child.exitCode !== null || child.signalCode !== null) return done();
    child.on('exit', done);
    child.kill('SIGTERM');
    setTimeout(() => child.kill('SIGKILL'), 4000).unref();
  });
