import type { Step } from '@bistre/core';
import { EXAMPLES } from '../../../core/src/test-ways';
import { documentOf } from '../testing/batch';
import { reckonShown } from '../testing/reckon';
import { doneSteps, nextIn, stepAfter, stepOfNext } from './go-on';

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

describe('a step that is not there any more', () => {
  const steps = (...ids: string[]): Step[] => ids.map((id) => ({ id, station: 'run', part: 'do', title: id }));
  const none = new Set<string>();
  it.each<[string, Step[], string[], string, number, string | null]>([
    ['a load that was judged: the next', steps('hold.cut', 'run.load-next', 'close.batch'), [], 'run.load-1', 1, 'run.load-next'],
    ['fewer steps before it than there were', steps('feed.home', 'run.load-next', 'close.batch'), [], 'run.load-1', 5, 'run.load-next'],
    ['laying that came in before it is done first', steps('burn.set', 'place.lay', 'place.walk', 'run.load-1'), [], 'run.load-next', 1, 'place.lay'],
    ['what of it is done is not done again', steps('burn.set', 'place.lay', 'place.walk', 'run.load-1'), ['place.lay'], 'run.load-next', 1, 'place.walk'],
    ['none of its kind', steps('hold.cut', 'close.batch'), [], 'run.load-1', 1, null],
    ['one that has no others of its kind', steps('hold.cut', 'hold.fit'), [], 'hold.kerf', 0, null],
    ['nothing at all', steps('hold.cut'), [], '', 0, null],
  ])('%s', (_what, now, done, gone, at, id) => {
    const found = stepAfter(now, done.length > 0 ? new Set(done) : none, gone, at);
    expect(found === null ? null : now[found]!.id).toBe(id);
  }); // prettier-ignore
});

it('a tick says nothing of a step whose choice is open again', () => {
  const step = { id: 'burn.set', station: 'burn', part: 'do', title: 'Recipe' } as const;
  const ticks = [{ step: 'burn.set', at: '2026-11-20T08:00:00.000Z', by: 'Odile' }];
  expect(doneSteps([step], { ticks }).has('burn.set')).toBe(true);
  expect(doneSteps([{ ...step, ticked: false }], { ticks }).has('burn.set')).toBe(false);
  expect(doneSteps([{ ...step, ticked: false, done: true }], { ticks: [] }).has('burn.set')).toBe(true);
});
