import base from './playwright.config';

export default { ...base, testDir: './pictures', timeout: 300_000 };
