import { connect, migrate } from './db/connect';
import { clearAll, seedDemo } from './demo';

const url = process.env.DATABASE_URL!;
await migrate(url);
const db = connect(url, 1, 'unlimited');
await clearAll(db);
await seedDemo(db);
await db.destroy();
process.stdout.write('The demo shop is back as it was.\n');
