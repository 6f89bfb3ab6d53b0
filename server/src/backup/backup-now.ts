import { resolve } from 'node:path';
import { BadBackup } from './format';
import { writeBackup } from './write';

/** `backup FILE`: everything in DATABASE_URL into one file. */
const [file] = process.argv.slice(2);
try {
  const { tables } = await writeBackup(process.env.DATABASE_URL!, resolve(file!));
  const rows = Object.values(tables).reduce((n, t) => n + t.rows, 0);
  process.stdout.write(`Saved to ${resolve(file!)}: ${rows} rows of ${Object.keys(tables).length} tables.\n`);
} catch (error) {
  const full = (error as { code?: string }).code === 'ENOSPC';
  process.stderr.write(
    error instanceof BadBackup
      ? `${error.message}\n`
      : full
        ? 'The disk is full: no backup was written. The data are as they were.\n'
        : `The backup was not written: ${(error as Error).message}\n`,
  );
  process.exitCode = 1;
}
