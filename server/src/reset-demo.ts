import { connect, migrate } from './db/connect';
import { clearAll, seedDemo } from './demo';

const db = connect(process.env.DATABASE_URL!);
await migrate(db);
await clearAll(db);
await seedDemo(db);
await db.destroy();
process.stdout.write('The demo shop is back as it was.\n');
