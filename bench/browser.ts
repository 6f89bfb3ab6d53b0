import { chromium, type Browser } from 'playwright-core';

/** Debian's Chromium with a new empty profile and nothing in its background. */
export const launch = (): Promise<Browser> =>
  chromium.launch({
    executablePath: process.env.BISTRE_CHROMIUM!,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
