import { benchSteps, routeOf } from '../batch';
import { reckon } from '../test-reckon';
import { EXAMPLES } from '../test-ways';
import { WAY_IDS } from '../ways';
import { belongsTo, withShopSteps, type ShopStep } from '.';

const own = (id: string, more: Partial<ShopStep> = {}): ShopStep => ({
  id,
  title: `Step ${id}`,
  of: { kind: 'material', material: 'Slate' },
  station: 'hold',
  when: 'last',
  detail: '',
  caution: '',
  minutes: null,
  photoId: null,
  ...more,
});

describe('what a step of the shop belongs to', () => {
  const batch = { blankId: 'b', machineId: 'm', way: 'pockets', materials: [null, ' slate '] } as const;

  it.each([
    [{ kind: 'blank', blankId: 'b' }, true],
    [{ kind: 'blank', blankId: 'm' }, false],
    [{ kind: 'machine', machineId: 'm' }, true],
    [{ kind: 'way', way: 'pockets' }, true],
    [{ kind: 'way', way: 'drive' }, false],
    [{ kind: 'material', material: 'Slate' }, true],
    [{ kind: 'material', material: 'slates' }, false],
  ] as const)('%j: %s', (of, is) => expect(belongsTo(of, batch)).toBe(is));

  it('a material nobody named is none, not the one without a name', () =>
    expect(belongsTo({ kind: 'material', material: '' }, { ...batch, materials: ['', null, undefined] })).toBe(false));
});

describe.each(WAY_IDS)('steps of the shop in a batch held by %s', (way) => {
  const input = EXAMPLES[way];
  const r = reckon(input);
  const route = routeOf(input);
  const plain = benchSteps(input, r);
  const ids = (steps: readonly ShopStep[]): string[] => benchSteps({ ...input, shopSteps: steps }, r).map((s) => s.id);

  it('stand before the first and after the last of their station, in the order they were added; nothing else moves', () => {
    const steps = route.flatMap((station) => [
      own(`${station}-a`, { station, when: 'first' }),
      own(`${station}-b`, { station, when: 'first' }),
      own(`${station}-y`, { station }),
      own(`${station}-z`, { station }),
    ]);
    const all = ids(steps);
    expect(all.filter((id) => !id.startsWith('shop.'))).toEqual(plain.map((s) => s.id));
    expect(all.at(-1)).toBe('close.batch');
    for (const station of route) {
      const at = (name: string): number => all.indexOf(`shop.${station}-${name}`);
      expect([at('a') + 1, at('y') + 1]).toEqual([at('b'), at('z')]);
      const theirs = plain.flatMap((s) => (s.station === station && s.id !== 'close.batch' ? [all.indexOf(s.id)] : []));
      if (theirs.length === 0) continue;
      expect(at('b')).toBeLessThan(Math.min(...theirs));
      expect(at('y')).toBeGreaterThan(Math.max(...theirs));
    }
  });

  it('are done at the next station where the way has none of that name', () => {
    for (const station of ['hold', 'drive', 'feed', 'place'] as const) {
      const step = benchSteps({ ...input, shopSteps: [own('x', { station })] }, r).find((s) => s.id === 'shop.x')!;
      expect(route).toContain(step.station);
      if (route.includes(station)) expect(step.station).toBe(station);
    }
  });
});

it('a step carries what was written of it, and nothing that was not', () => {
  const [bare, full] = withShopSteps(
    [],
    [own('a'), own('b', { detail: 'Two thin coats.', caution: 'Gloves.', minutes: 20, photoId: 'p' })],
    ['hold', 'close'],
  );
  expect(bare).toEqual({ id: 'shop.a', station: 'hold', part: 'do', title: 'Step a', shops: true });
  expect(full).toMatchObject({ detail: 'Two thin coats.', caution: 'Gloves.', minutes: 20, photoId: 'p' });
});
