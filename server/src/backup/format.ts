import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { createGunzip } from 'node:zlib';

/**
 * A backup: gzip of lines. First a header in JSON; then for each table its {@link TableHead} in JSON, its rows as
 * PostgreSQL's COPY writes them as text, and a line `\.`; last a {@link Footer} in JSON. Plain enough to be read
 * without Bistre, and by another PostgreSQL.
 */
export const FORMAT = 1;

export interface Header {
  readonly bistre: 'backup';
  readonly format: number;
  /** Name of the newest migration that the data have. */
  readonly schema: string;
  readonly at: string;
  /** Tables in an order in which they can be filled: what is referred to first. */
  readonly tables: readonly string[];
}

export interface TableHead {
  readonly table: string;
  readonly columns: readonly string[];
}

export interface Footer {
  readonly end: true;
  /** Rows and SHA-256 of the rows' text, by table. */
  readonly tables: Readonly<Record<string, { readonly rows: number; readonly sha256: string }>>;
  /** SHA-256 of everything before this line. */
  readonly sha256: string;
}

/** Why a file is no backup that can be read; its message names the file. */
export class BadBackup extends Error {}

const NEWLINE = 10;
const END_OF_ROWS = '\\.';

/** What a reader of a backup is told, in order. */
export interface BackupReader {
  readonly header?: (header: Header) => Promise<void>;
  readonly table?: (head: TableHead) => Promise<void>;
  /** One or more whole rows, each ended by a newline. */
  readonly rows?: (rows: Buffer) => Promise<void>;
  readonly tableEnd?: (head: TableHead) => Promise<void>;
}

/** Whole lines of a stream, many at a time; the last may lack its newline. */
async function* linesOf(stream: AsyncIterable<Buffer>): AsyncGenerator<Buffer> {
  let rest: Buffer[] = [];
  for await (const chunk of stream) {
    const at = chunk.lastIndexOf(NEWLINE);
    if (at < 0) {
      rest.push(chunk);
      continue;
    }
    yield Buffer.concat([...rest, chunk.subarray(0, at + 1)]);
    rest = [chunk.subarray(at + 1)];
  }
  const last = Buffer.concat(rest);
  if (last.length > 0) yield last;
}

const parseHeader = (line: string, file: string): Header => {
  try {
    const header = JSON.parse(line) as Header;
    if (header.bistre === 'backup' && typeof header.schema === 'string') return header;
  } catch {
    // Not JSON: no backup.
  }
  throw new BadBackup(`${file} is not a backup of Bistre.`);
};

/** Goes through a backup line by line, checking what it says of itself. */
class Walk {
  private readonly whole = createHash('sha256');
  private of = createHash('sha256');
  private rows = 0;
  private header: Header | null = null;
  private head: TableHead | null = null;
  private readonly seen: Record<string, { rows: number; sha256: string }> = {};
  footer: Footer | null = null;

  constructor(
    private readonly file: string,
    private readonly reader: BackupReader,
  ) {}

  private damaged(why: string): BadBackup {
    return new BadBackup(`${this.file} is damaged: ${why}. Nothing was changed.`);
  }

  /** Takes some whole lines. */
  async take(lines: Buffer): Promise<void> {
    let at = 0;
    while (at < lines.length) {
      if (this.head) {
        at = await this.takeRows(lines, at);
        continue;
      }
      const end = lines.indexOf(NEWLINE, at);
      const stop = end < 0 ? lines.length : end + 1;
      await this.takeJson(lines.subarray(at, stop));
      at = stop;
    }
  }

  /** Takes rows up to the end of their table or of the buffer; returns where it stopped. */
  private async takeRows(lines: Buffer, from: number): Promise<number> {
    let end = from;
    while (end < lines.length) {
      const stop = lines.indexOf(NEWLINE, end) + 1 || lines.length;
      if (lines.subarray(end, stop).toString('latin1').trimEnd() === END_OF_ROWS && stop - end <= 4) {
        await this.giveRows(lines.subarray(from, end));
        this.whole.update(lines.subarray(end, stop));
        const { table } = this.head!;
        this.seen[table] = { rows: this.rows, sha256: this.of.digest('hex') };
        await this.reader.tableEnd?.(this.head!);
        this.head = null;
        return stop;
      }
      this.rows += 1;
      end = stop;
    }
    await this.giveRows(lines.subarray(from, end));
    return end;
  }

  private async giveRows(rows: Buffer): Promise<void> {
    if (rows.length === 0) return;
    this.whole.update(rows);
    this.of.update(rows);
    await this.reader.rows?.(rows);
  }

  private async takeJson(line: Buffer): Promise<void> {
    const text = line.toString('utf8');
    if (!this.header) {
      this.header = parseHeader(text, this.file);
      this.whole.update(line);
      await this.reader.header?.(this.header);
      return;
    }
    let value: TableHead | Footer;
    try {
      value = JSON.parse(text) as TableHead | Footer;
    } catch {
      throw this.damaged('a line of it cannot be read');
    }
    if ('end' in value) {
      this.footer = value;
      this.check(value);
      return;
    }
    this.whole.update(line);
    this.head = value;
    this.of = createHash('sha256');
    this.rows = 0;
    await this.reader.table?.(value);
  }

  private check(footer: Footer): void {
    if (footer.sha256 !== this.whole.digest('hex')) throw this.damaged('its checksum does not match');
    for (const [table, { rows, sha256 }] of Object.entries(footer.tables)) {
      const found = this.seen[table];
      if (found?.rows !== rows || found.sha256 !== sha256) throw this.damaged(`${table} is not whole`);
    }
  }
}

/**
 * Reads a backup from its file, in whole rows.
 *
 * @returns what its end says, once everything agreed with it
 * @throws BadBackup naming the file when it is no backup, cut short or altered
 */
export const readBackup = async (file: string, reader: BackupReader = {}): Promise<Footer> => {
  const walk = new Walk(file, reader);
  const source = createReadStream(file);
  const unpacked = source.pipe(createGunzip());
  source.on('error', (error) => unpacked.destroy(error));
  try {
    for await (const lines of linesOf(unpacked)) await walk.take(lines);
  } catch (error) {
    const code = String((error as { code?: string }).code);
    if (/^Z_|ERR_/.test(code)) throw new BadBackup(`${file} is damaged or no backup of Bistre. Nothing was changed.`);
    if (code === 'ENOENT') throw new BadBackup(`${file} does not exist.`);
    throw error;
  }
  if (!walk.footer) throw new BadBackup(`${file} is cut short. Nothing was changed.`);
  return walk.footer;
};

/** What a backup says of itself at its beginning. */
export const headerOf = async (file: string): Promise<Header> => {
  let header: Header | null = null;
  const stop = new Error('enough');
  await readBackup(file, {
    header: (h) => {
      header = h;
      return Promise.reject(stop);
    },
  }).catch((error: unknown) => {
    if (error !== stop) throw error;
  });
  if (!header) throw new BadBackup(`${file} is not a backup of Bistre.`);
  return header;
};
