import PDFDocument from 'pdfkit';
import { median, SHORT, table } from './table';

/** The customer's proof of 2,000 lettered pieces, every one drawn. Reference: as many frames with their names as text. */
const base = process.env.BISTRE_URL!;
const PIECES = SHORT ? 200 : 2_000;

const read = async <T>(path: string): Promise<T> => (await (await fetch(base + path)).json()) as T;
const put = (path: string, body: unknown) =>
  fetch(base + path, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });

interface Batch {
  readonly id: string;
  readonly name: string;
  readonly version: number;
  readonly columns: readonly string[];
}
const { id } = (await read<Batch[]>('/api/batches')).find((b) => b.name.startsWith('Boat tags'))!;
const { version } = await read<Batch>(`/api/batches/${id}`);
await put(`/api/batches/${id}`, { name: 'Boat tags', customer: '', quantity: PIECES, spares: 0, tolerance: 0.5, dueAt: null, version }); // prettier-ignore
const now = await read<Batch>(`/api/batches/${id}`);
const rows = Array.from({ length: PIECES }, (_, i) => Object.fromEntries(now.columns.map((c, k) => [c, k === 0 ? `CREW ${i + 1}` : `LANE ${(i % 8) + 1}`]))); // prettier-ignore
await put(`/api/batches/${id}/roster`, { columns: now.columns, rows, version: now.version });

let bytes = 0;
const file = (name: string) => async (): Promise<void> => {
  const response = await fetch(`${base}/api/batches/${id}/files/${name}`);
  if (!response.ok) throw new Error(await response.text());
  bytes = (await response.arrayBuffer()).byteLength;
};
const plain = (): Promise<void> =>
  new Promise((done) => {
    const doc = new PDFDocument({ size: 'A4', margin: 40 });
    doc.on('data', () => undefined).on('end', () => done());
    for (let i = 0; i < PIECES; i += 1) {
      if (i > 0 && i % 14 === 0) doc.addPage();
      const [x, y] = [40 + (i % 2) * 260, 40 + (Math.floor(i / 2) % 7) * 100];
      doc.rect(x, y, 170, 71).stroke().fontSize(12).text(`CREW ${i + 1}`, x, y + 20, { lineBreak: false }); // prettier-ignore
    }
    doc.end();
  });
const every = await median(3, file('proof-all.pdf'));
const size = bytes;
const once = await median(3, file('proof.pdf'));
const labels = await median(3, file('labels.pdf'));
const frames = await median(3, plain);
table([
  {
    what: `proof of ${PIECES} pieces, every one drawn, ${(size / 1e6).toFixed(1)} MB`,
    measured: `${(every / 1000).toFixed(2)} s`,
    against: `under 15 s; frames and names alone ${(frames / 1000).toFixed(2)} s`,
    good: every < 15_000,
  },
  { what: '… each kind once, all names in a table', measured: `${(once / 1000).toFixed(2)} s`, against: 'under 5 s', good: once < 5_000 }, // prettier-ignore
  { what: 'labels of its boxes', measured: `${(labels / 1000).toFixed(2)} s`, against: 'under 5 s', good: labels < 5_000 }, // prettier-ignore
]);
