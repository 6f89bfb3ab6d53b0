import { expect, test } from '@playwright/test';
import { aim, homeIt, openBatch, push } from './helpers';

test('plates in a row on the feeder, from the bench view: calibrated, squared, aimed at, burned stop by stop', async ({
  page,
}) => {
  await openBatch(page, 'Oar-rack plates', 'Feed');
  await expect(page.getByText('free where it goes in')).toBeVisible();
  await page.getByRole('button', { name: 'use the simulated feeder' }).click();
  const batch = page.url().replace(/\/feed$/, '');
  await page.goto(`${batch}/bench`);
  const title = page.getByRole('heading', { level: 2 });
  const next = page.getByRole('button', { name: 'Done, next →' });
  for (const words of [/Is there room/, /safe to burn/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  await expect(title).toHaveText('Feed a long way and measure it');
  for (let i = 1; i <= 3; i += 1) {
    await page.getByRole('button', { name: 'Feed it', exact: true }).click();
    await expect(page.getByText(`from ${i} reading`)).toBeVisible();
  }
  await page.getByRole('button', { name: 'Next →' }).click();
  for (const words of [/Home the machine/, /Lay the blanks/, /Focus on a blank/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  await expect(title).toHaveText('Read the guide’s edge at two places, far apart');
  await page.getByRole('button', { name: 'Read it' }).click();
  await expect(page.getByText('off the axis; the files turn with it')).toBeVisible();
  await page.getByRole('button', { name: 'Next →' }).click();
  await expect(title).toHaveText(/Measure its edge/);
  await page.getByRole('button', { name: 'Measure it' }).click();
  await expect(page.getByText('mm a metre; the files turn with it')).toBeVisible();
  await page.getByRole('button', { name: 'Next →' }).click();
  for (const words of [/test patch/, /Recipe Anodised/]) {
    await expect(title).toHaveText(words);
    await next.click();
  }
  await expect(title).toHaveText('Begin with the first place');
  await page.getByRole('button', { name: 'It lies there' }).click();
  await expect(title).toHaveText(/leading corner at the guide/);
  await homeIt(page);
  // Only a homed machine can be pushed: its answer is there then.
  await expect(page.getByRole('button', { name: /Push the head near/ })).toBeVisible();
  await push(page, 1);
  await aim(page);
  await page.getByRole('button', { name: 'Take reading of mark 1' }).click();
  await expect(title).toHaveText('Walk stop 1 with the beam off');
  await next.click();
  await expect(title).toHaveText('Burn stop 1: place 1');
  await page.getByRole('button', { name: 'Burn it on the simulated machine' }).click();
  await expect(page.getByText(/Burned: 1 piece/)).toBeVisible();
  await page.getByRole('button', { name: 'Done', exact: true }).click();
  await expect(title).toHaveText('Look at the first piece, then approve it');
  await page.getByRole('button', { name: 'Approve the first piece' }).click();
  await expect(title).toHaveText('Feed on to stop 2: places 2 to 5');
  await page.getByRole('button', { name: 'It lies there' }).click();
  // Answered: leaving at once would take the request along.
  await expect(title).not.toHaveText('Feed on to stop 2: places 2 to 5');
  // A reload in the middle of a stop changes nothing.
  await page.goto(`${batch}/bench`);
  const walk = page.getByText('Walk stop 2 with the beam off');
  const corner = page.getByText(/Aim at the first blank/);
  await expect(walk.or(corner).first()).toBeVisible();
});
