import { benchSteps } from '../batch';
import { reckon } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import { WAY_IDS } from '../ways';
import { inHand } from '.';

describe('what lies ready before a step is begun', () => {
  it.each([
    [{ id: 'blank.measure', takes: { kind: 'samples' } }, ['caliper', 'pieces of this delivery']],
    [{ id: 'drive.ring', takes: { kind: 'ring' } }, ['masking tape', 'caliper or steel rule']],
    [{ id: 'place.focus' }, ['the lens’s focus gauge']],
    [{ id: 'drive.tilt' }, ['spirit level', 'packing']],
    [{ id: 'place.lay' }, ['masking tape']],
    [{ id: 'feed.mask-3' }, ['masking tape']],
  ] as const)('%j', (step, needs) => expect(inHand(step)).toEqual(needs));

  it('homing and what the shop added in its own words ask for nothing more', () => {
    expect(inHand({ id: 'place.home' })).toEqual([]);
    expect(inHand({ id: 'shop.lay', shops: true })).toEqual([]);
  });

  it.each(WAY_IDS)('%s: whatever is measured or laid says by what', (way) => {
    const input = EXAMPLES[way];
    const steps = benchSteps(input, reckon(input));
    const measured = steps.filter((s) =>
      ['samples', 'ring', 'run-out', 'square', 'card', 'back', 'kerf'].includes(s.takes?.kind ?? ''),
    );
    for (const step of measured) expect([step.id, inHand(step).length > 0]).toEqual([step.id, true]);
    expect(steps.filter((s) => inHand(s).length > 0).length).toBeGreaterThan(0);
  });
});
