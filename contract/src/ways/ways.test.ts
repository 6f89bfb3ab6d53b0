import { adopt, freshLong, WAY_IDS, WAYS, type Held, type HeldSection, type WayId } from '@bistre/core';
import { chosen, held, heldSection } from '.';

const fresh = (way: WayId): Held => WAYS[way].fresh('BOATTAG');
/** As it crosses the wire. */
const sent = (value: unknown): unknown => JSON.parse(JSON.stringify(value));

/** A held work with one value put somewhere inside of it. */
const put = (way: WayId, path: string, value: unknown): unknown => {
  const out = sent(fresh(way)) as Record<string, unknown>;
  const names = path.split('.');
  const inside = names.slice(0, -1).reduce((o, n) => o[n] as Record<string, unknown>, out);
  inside[names.at(-1)!] = value;
  return out;
};

/** What is said against it, with where; nothing when it is taken. */
const against = (value: unknown): string[] => {
  const parsed = held.safeParse(value);
  return parsed.success ? [] : parsed.error.issues.map((i) => `${i.path.join('.')}: ${i.message}`);
};

describe('how a batch is held', () => {
  it.each(WAY_IDS)('%s: crosses the wire as it begins, and nothing of it is dropped', (way) => {
    const begun = fresh(way);
    expect(held.parse(sent(begun))).toEqual(begun);
    const { found: _, ...decided } = begun;
    expect(chosen.parse(sent(decided))).toEqual(decided);
    // What was seen is never part of what a board keeps.
    expect(chosen.parse(sent(begun))).toEqual(decided);
  });

  it('crosses with every way that was left', () => {
    const first: HeldSection = { ...fresh('pockets'), left: [] };
    const all = WAY_IDS.reduce((h, way) => adopt(h, WAYS[way]), first);
    expect(all.left).toHaveLength(WAY_IDS.length - 1);
    expect(heldSection.parse(sent(all))).toEqual(all);
  });

  it('names a way that it does not know, and one way’s choice under another’s name', () => {
    expect(against({ ...fresh('sheet'), way: 'glue' })[0]).toMatch(/^way: /);
    expect(against({ ...fresh('locator'), way: 'pegs' })).toContainEqual(
      expect.stringMatching(/^choice\.peg: Peg must be/),
    );
    expect(heldSection.safeParse({ ...fresh('sheet'), left: [{ way: 'glue' }] }).success).toBe(false);
  });

  it.each<[WayId, string, unknown, string]>([
    ['pockets', 'choice.boardThickness', 0.1, 'Board thickness must be a number between 0.3 and 50 mm.'],
    ['pockets', 'choice.name', '', 'Board name is empty.'],
    ['pockets', 'choice.name', 'A\u0000B', 'Board name has a character that cannot be printed.'],
    ['fence', 'choice.marks', 1, 'Marks must be a whole number between 2 and 12.'],
    ['fence', 'choice.marks', 2.5, 'Marks must be a whole number between 2 and 12.'],
    ['fence', 'choice.wall', null, 'Wall between pockets must be a number between 0 and 200 mm.'],
    ['pegs', 'choice.contacts', [10, -1], 'Contact 2 must be a number between 0 and 20000 mm.'],
    ['pegs', 'found.card', 11, 'Gap to the card must be a number between 0 and 10 mm.'],
    ['locator', 'choice.pitch', 0, 'Between grid lines must be a number between 2 and 100 mm.'],
    ['locator', 'found.back', [0.1, 21], 'Distance of the dots must be a number between 0 and 20 mm.'],
    ['long', 'choice.overlap', 21, 'Overlap at a seam must be a number between 0 and 20 mm.'],
    ['feed', 'choice.strip.length', 19, 'Strip length must be a number between 20 and 10000 mm.'],
    [
      'feed',
      'choice.work',
      { kind: 'long', long: { ...freshLong, margin: -1 } },
      'Margin must be a number between 0 and 500 mm.',
    ],
    [
      'feed',
      'found.squaring',
      { apart: 10, first: 0, second: 0 },
      'Stations apart must be a number between 50 and 5000 mm.',
    ],
    ['photo', 'choice.cameraHeight', 'high', 'Camera over the bed must be a number between 100 and 5000 mm.'],
    ['photo', 'found.density', 2, 'Density must be a number between 0 and 1.'],
    ['drive', 'found.runOut', -0.1, 'Run-out must be a number between 0 and 20 mm.'],
    ['drive', 'choice.overhang', Number.NaN, 'Overhang must be a number between 0 and 5000 mm.'],
  ])('%s: refuses %s of %p by name', (way, path, value, message) => {
    const said = against(put(way, path, value));
    expect(said).toHaveLength(1);
    expect(said[0]).toMatch(new RegExp(`^${path.replaceAll('.', '\\.')}`));
    expect(said[0]!.slice(said[0]!.indexOf(': ') + 2)).toBe(message);
  });

  it.each<[WayId, string]>([
    ['cradle', 'choice.rimFaces'],
    ['drive', 'choice.rimFaces'],
    ['drive', 'choice.seam.kind'],
    ['photo', 'choice.use'],
    ['long', 'choice.loading'],
    ['pockets', 'choice.clearance.school'],
    ['sheet', 'choice.turned'],
    ['pockets', 'choice.order.corner'],
  ])('%s: refuses a word that is none of %s', (way, path) => {
    expect(against(put(way, path, 'sideways'))).toEqual([expect.stringMatching(new RegExp(`^${path}: `))]);
  });

  it('takes the ends of a range, and no more ways left than there are', () => {
    for (const wall of [0, 200]) expect(against(put('pockets', 'choice.wall', wall))).toEqual([]);
    for (const wall of [-0.001, 200.001]) expect(against(put('pockets', 'choice.wall', wall))).toHaveLength(1);
    const left = Array.from({ length: WAY_IDS.length + 1 }, () => fresh('sheet'));
    expect(heldSection.safeParse({ ...fresh('pockets'), left }).success).toBe(false);
  });
});
