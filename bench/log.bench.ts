import { sql } from 'kysely';
import { connect } from '../server/src/db/connect';
import { median, table } from './table';

const db = connect(process.env.DATABASE_URL!);
await sql`insert into events (by, kind, summary) select 'Imre', (array['piece', 'reading', 'scrap', 'setup'])[1 + i % 4], 'Piece ' || i || ' done, off by 0.1, 0.2 mm' from generate_series(1, 100000) i`.execute(
  db,
);
await sql`analyze events`.execute(db);
await db.destroy();
const get = (query: string) => async (): Promise<void> => {
  const response = await fetch(`${process.env.BISTRE_URL}/api/log?limit=60${query}`);
  if (!response.ok) throw new Error(await response.text());
  await response.json();
};
const first = await median(15, get(''));
const deep = await median(15, get('&before=40000'));
const words = await median(15, get('&q=piece%2099'));
const offset = connect(process.env.DATABASE_URL!);
const reference = await median(15, () =>
  sql`select * from events order by id desc offset 60000 limit 60`.execute(offset),
);
await offset.destroy();
table([
  {
    what: 'log of 100,000 rows, first page, at the server',
    measured: `${first.toFixed(1)} ms`,
    against: 'under 50 ms',
    good: first < 50,
  },
  {
    what: '… a page 60,000 rows down, by key',
    measured: `${deep.toFixed(1)} ms`,
    against: `under 50 ms; the same by OFFSET, query alone ${reference.toFixed(1)} ms`,
    good: deep < 50,
  },
  { what: '… searched by words', measured: `${words.toFixed(1)} ms`, against: 'under 50 ms', good: words < 50 },
]);
