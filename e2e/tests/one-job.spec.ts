import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { openBatch } from './helpers';

/** Three pieces with names of their own, held by pockets: the customer approves them, and the job leaves as one file. */
test('a proof is approved, a name is changed and asked about again; the job goes out and is recognised', async ({
  page,
}) => {
  await openBatch(page, 'Course charts', 'Run');
  const part = page.getByRole('region', { name: 'The customer’s approval' });
  await part.getByText(/^The customer approves the proof/).click();
  await expect(part.getByText(/Proof revision 1 waits for it/)).toBeVisible();
  const proof = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Proof, each kind' }).click();
  const file = await proof;
  expect(file.suggestedFilename()).toMatch(/^course-charts.*-proof-\d{8}-\d{4}\.pdf$/);
  expect(
    readFileSync(await file.path())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
  await part.getByLabel('Approved by').fill('the regatta committee');
  await part.getByRole('button', { name: 'Keep the approval of revision 1' }).click();
  await expect(part.getByText(/Revision 1 was approved by the regatta committee/)).toBeVisible();
  await expect(part.getByRole('button')).toHaveCount(0);

  // A piece more is another proof; the file that was handed out is out of date.
  const id = /batches\/([^/]+)/.exec(page.url())![1]!;
  const now = (await (await page.request.get(`/api/batches/${id}`)).json()) as Record<string, never> & { quantity: number; version: number }; // prettier-ignore
  await page.request.put(`/api/batches/${id}`, { data: { name: now['name'], customer: now['customer'], quantity: now.quantity + 1, spares: now['spares'], tolerance: now['tolerance'], dueAt: now['dueAt'], version: now.version } }); // prettier-ignore
  await page.reload();
  await expect(part.getByText(`Pieces: ${now.quantity} → ${now.quantity + 1}.`)).toBeVisible();
  await expect(part.getByText(/Proof revision 2 waits for it/)).toBeVisible();
  await expect(page.getByRole('list', { name: 'Out of date' }).first()).toContainText('Proof, each kind of');
  await part.getByText(/^The customer approves the proof/).click();

  // All of it as one file, read in where it came from: everything is recognised.
  const zip = page.waitForEvent('download');
  await page.getByRole('button', { name: 'One file of all' }).click();
  const job = await zip;
  expect(job.suggestedFilename()).toMatch(/-job-\d{8}-\d{4}\.zip$/);
  await page.goto('/');
  await page.getByRole('link', { name: 'Read a job in' }).click();
  await page.getByLabel('The file of a job').setInputFiles(await job.path());
  await expect(page.getByText(/This batch is here already, as it is in the file/)).toBeVisible();
  await page.getByRole('button', { name: 'Open it' }).click();
  await expect(page.getByRole('heading', { name: /^Course charts/ })).toBeVisible();
});

test('a fixture opens with its drawing and its runs, and a machine keeps what was changed on it', async ({ page }) => {
  await page.goto('/shelf/fixtures');
  await page.getByRole('link', { name: /BAGTAG-12/ }).click();
  await expect(page.getByRole('heading', { name: 'BAGTAG-12' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'DXF' })).toBeVisible();
  await expect(
    page
      .getByRole('region', { name: 'Runs' })
      .getByRole('link', { name: /^again/ })
      .first(),
  ).toBeVisible();
  await page.goto('/shelf/machines');
  await page.getByRole('link', { name: /Bench B/ }).first().click(); // prettier-ignore
  const changed = page.getByRole('region', { name: 'Changed on it' });
  await changed.getByLabel('Note').fill('50 mm, new');
  await changed.getByRole('button', { name: 'Keep it' }).click();
  await expect(changed.getByText(/lens changed: 50 mm, new/)).toBeVisible();
  await changed.getByRole('button', { name: 'take it out' }).click();
  await expect(changed.getByText(/Nothing yet/)).toBeVisible();
});
