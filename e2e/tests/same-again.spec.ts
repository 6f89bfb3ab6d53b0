import { expect, test } from '@playwright/test';

/** The job of another time, for new names: what is typed and touched until it waits for the marks, one entry each. */
test('a closed job again in at most twelve inputs, then its first pieces move the burn', async ({ page }) => {
  const inputs: string[] = [];
  const did = async (what: string, act: Promise<unknown>): Promise<void> => {
    inputs.push(what);
    await act;
  };
  await page.goto('/');
  const open = (await (await page.request.get('/api/batches')).json()) as { id: string; name: string }[];
  const still = open.find((b) => b.name === 'Boat tags');
  // It is a job of another time once it is closed.
  if (still) await page.request.post(`/api/batches/${still.id}/close`, { data: { reason: 'as many as were wanted' } });
  await page.reload();
  await did('show the closed ones', page.getByRole('region', { name: 'Closed batches' }).getByRole('button').click());
  const row = page.getByRole('listitem').filter({ hasText: 'Boat tags' });
  await did('again', row.getByRole('link', { name: 'again' }).click());
  await expect(page.getByRole('heading', { name: 'The same again' })).toBeVisible();
  // Everything of it stands there.
  for (const words of ['Boat tag', 'Bench A', /BOATTAG-48 r1/, 'Slate acrylic, fine'])
    await expect(page.getByText(words).first()).toBeVisible();
  await did('paste the names', page.getByLabel(/^Names or numbers/).fill('name,seat\nAVOCET,LANE 1\nLINNET,LANE 2\nCURLEW,LANE 3\nGODWIT,LANE 4')); // prettier-ignore
  await did('call it', page.getByLabel('What is it called?').fill('Boat tags, next year'));
  await did('when', page.getByLabel('Due').fill('2027-05-20T12:00'));
  await expect(page.getByLabel('Quantity')).toHaveValue('4');
  await did('Begin', page.getByRole('button', { name: 'Begin' }).click());
  const goOn = page.getByRole('button', { name: 'Go on with it' });
  await expect(goOn.or(page.getByRole('heading', { name: 'Boat tags, next year' })).first()).toBeVisible();
  if (await goOn.isVisible()) await did('go on', goOn.click());
  await expect(page.getByRole('heading', { name: 'Boat tags, next year' })).toBeVisible();
  expect(inputs.length, inputs.join('; ')).toBeLessThanOrEqual(12);
  test.info().annotations.push({ type: 'counted', description: `${inputs.length} inputs until it is begun again` });

  // Its first piece lies far off, as its four edges tell; the burn follows it.
  const again = page.url().match(/batches\/([^/]+)/)![1]!;
  await page.request.post(`/api/batches/${again}/loads`, { data: {} });
  await page.goto(`/batches/${again}/run`);
  await page.getByRole('button', { name: 'by its edges' }).click();
  const dialog = page.getByRole('dialog', { name: /^Where the art lies on AVOCET/ });
  const asked = await dialog.getByRole('listitem').evaluateAll((items) => items.map((li) => [/^\d(.*?) drawn/.exec(li.textContent)![1]!, Number(/drawn ([\d.]+)/.exec(li.textContent)![1])] as const)); // prettier-ignore
  const off = { left: 1.2, right: -1.2, near: 0, far: 0 };
  for (const [label, drawn] of asked) {
    const field = dialog.getByLabel(label, { exact: true });
    await field.fill((drawn + off[label.split(' ')[0] as keyof typeof off]).toFixed(2));
    await field.press('Tab');
  }
  await expect(dialog.getByText(/Off by\s*1\.\d\d ± 0\.\d\d\s*mm to the right/)).toBeVisible();
  await dialog.getByRole('button', { name: 'Use it for this piece' }).click();
  await page.getByRole('button', { name: /^Scrap/ }).click();
  await page.getByRole('button', { name: 'off position' }).click();
  await page.getByRole('button', { name: 'Move the burn' }).click();
  await expect(page.getByRole('list', { name: 'Moves of the burn' })).toContainText(/^Moved [\d.]+ mm to the left/);
  // It is part of the placement, and can be taken back.
  await page.getByRole('button', { name: 'undo', exact: true }).click();
  const sure = page.getByRole('button', { name: /^Take it back|^Undo/ });
  if (await sure.isVisible()) await sure.click();
  await expect(page.getByRole('list', { name: 'Moves of the burn' })).toHaveCount(0);
});
