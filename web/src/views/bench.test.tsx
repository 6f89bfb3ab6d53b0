import { act, fireEvent, screen } from '@testing-library/react';
import { WAY_IDS } from '@bistre/core';
import { DOCUMENTS } from '../testing/batch';
import { wrongOn } from '../testing/looks';
import { showPage } from '../testing/page';
import { reckonShown } from '../testing/reckon';
import { BenchSteps } from './Bench';

const settle = (): Promise<void> => act(() => new Promise<void>((done) => setTimeout(done, 10)));

describe.each(WAY_IDS)('the bench view of %s', (way) => {
  it('goes through all its steps in order, each one sentence, and ticks what was done', async () => {
    const shown = await reckonShown(DOCUMENTS[way], 200);
    const page = await showPage(DOCUMENTS[way], (handle) => <BenchSteps handle={handle} shown={shown} />);
    for (let i = 0; i < 50 && page.container.textContent === '…'; i += 1) await settle();
    const title = (): string => screen.getByRole('heading', { level: 2 }).textContent ?? '';
    // Back to the first step, which is not where an unfinished batch opens.
    for (let i = 0; i < shown.steps.length; i += 1) fireEvent.keyDown(document.body, { key: 'ArrowLeft' });
    await settle();
    for (const step of shown.steps) {
      expect(title()).toBe(step.title);
      expect({ step: step.id, wrong: wrongOn(page.container) }).toEqual({ step: step.id, wrong: [] });
      fireEvent.keyDown(document.body, { key: 'ArrowRight' });
      await settle();
    }
  });
});
