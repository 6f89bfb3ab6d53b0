import { EXAMPLES } from '../../../core/src/test-ways';
import { documentOf } from '../testing/batch';
import { reckonShown } from '../testing/reckon';
import { nextIn, stepOfNext } from './go-on';

const found = (html: string): string | undefined => {
  const at = document.createElement('div');
  at.innerHTML = html;
  return nextIn(at)?.id;
};

describe('where the work goes on', () => {
  const plain = '<button id="some">other</button>';
  const step = '<input type="checkbox" id="ticked" checked><input type="checkbox" id="step">';
  const main = '<button class="act-main" id="off" disabled></button><button class="act-main" id="main"></button>';
  const empty = '<input id="full" value="3"><input id="empty">';
  const wrong = '<input id="wrong" aria-invalid="true" value="x">';
  it.each([
    [plain, 'some'],
    [`${plain}${step}`, 'step'],
    [`${plain}${step}${main}`, 'main'],
    [`${plain}${step}${main}${empty}`, 'empty'],
    [`${plain}${step}${main}${empty}${wrong}`, 'wrong'],
    [`${plain}${wrong}<button data-next disabled id="not"></button><button data-next id="next"></button>`, 'next'],
    ['<p>nothing to be done</p>', undefined],
  ])('is what is marked, wrong, empty, the main thing, a step or any of them, in this order: %#', (html, id) => {
    expect(found(html)).toBe(id);
  });

  it('is at the bench the first open step of the station that the batch waits for', async () => {
    const batch = documentOf(EXAMPLES.pockets);
    const shown = await reckonShown(batch, 100);
    const waits = shown.stations.find((s) => s.state !== 'proved')!.id;
    expect(stepOfNext(shown, batch)!.station).toBe(waits);
    const ticks = shown.steps.filter((s) => s.station === waits).map((s) => ({ step: s.id, by: 'Odile', at: '2026-11-20T08:00:00.000Z' })); // prettier-ignore
    // Where that station has no open step, the first open one of all.
    expect(stepOfNext(shown, { ticks })).toBe(shown.steps.find((s) => s.station !== waits && !s.done));
  });
});
