import { besideEarlier, draftsEarlier, frozenEarlier, heldEarlier, setupEarlier } from './earlier';
import { chosen, heldSection } from './ways';
import { beside, setup } from './things';

/** The settings of the Hold station as a release before kept them, whatever way was chosen. */
const hold = {
  method: 'nest',
  clearance: { school: 'snug' },
  coverage: 0.95,
  confidence: 0.9,
  boardThickness: 4,
  boardWarp: 1,
  wall: 5,
  extent: { kind: 'count', count: 24 },
  turned: 'auto',
  notches: 'one',
  notchRadius: 8,
  slotNumbers: true,
  marks: 3,
  order: { corner: 'back-left', first: 'rows', serpentine: false },
  name: 'BOATTAG',
  pushRoom: 3,
  tallThings: [{ label: 'magnet', x: 1, y: 2, radius: 8, height: 8 }],
  sheet: {
    paper: 'A4',
    landscape: true,
    own: { width: 300, height: 200 },
    bleed: 1,
    inset: 0,
    ground: '#f0d9a8',
    gap: 1,
    traced: null,
    inner: false,
  },
  panel: { width: 380, height: 240, gap: 1, turn: 'page', reads: 'over', carry: 'marks' },
  own: { marks: [], stretches: false },
  photo: {
    use: 'blanks',
    gap: 1,
    grain: 'along',
    offcuts: [],
    also: [],
    others: [],
    density: null,
    cameraHeight: 700,
    marksOn: 'bed',
    sheet: 'A3',
    own: [],
    inset: 20,
    found: [],
    left: 0,
    spread: null,
    marks: 0,
    seenBy: 'marks',
    afterLoad: 0,
    takenAt: null,
  },
  lines: { peg: 6, pegHeight: 3, contacts: null, eye: 0.2, shoulder: 0, card: 0.35 },
  locator: {
    frame: { width: 560, depth: 560 },
    foot: { width: 40, depth: 40 },
    travel: { x: 80, y: 80 },
    margin: 25,
    pitch: 10,
    inset: 5,
    gap: 4,
    eye: 0.2,
    back: [0.1, 0.2],
  },
  pins: null,
  stock: { readings: [3.9, 4], room: null },
  stand: null,
};
const long = { loading: 'through', feed: 'x', margin: 15, overlap: 0, markInset: 10, smallText: 15, art: null };
const drive = {
  driveId: null as string | null,
  rimFaces: 'left',
  contactAt: null,
  overhang: 0,
  stand: { bed: 'in', riser: null },
  found: { quarters: 1, mirrored: true },
  accelerationSet: 1195,
  numberSet: 51.81,
  seam: { kind: 'gapped', gap: 2 },
  rowScaling: true,
  bothWays: true,
  runOut: null,
  faces: [] as unknown[],
};
const feed = {
  feederId: null as string | null,
  work: 'row',
  rails: true,
  turned: true,
  pitch: 130,
  gap: 10,
  interlock: false,
  strip: { length: 2400, width: 60 },
  laid: 0.3,
  squaring: { apart: 400, first: 0.1, second: 0.2 },
  aimEvery: null,
  used: [],
};
const sections = { hold, long, drive, feed };
const FLAT = { round: false, lay: false };
const ROUND = { round: true, lay: false };
const ID = '00000000-0000-4000-8000-000000000001';
const METHODS = ['nest', 'fence', 'lines', 'locator', 'sheet', 'panel', 'long', 'marked', 'feed', 'photo'];

describe('a setup of an earlier release', () => {
  it.each(METHODS)('held by %s is what the contract takes now, and reads back what was typed', (method) => {
    const held = heldSection.parse(heldEarlier({ ...sections, hold: { ...hold, method } }, FLAT));
    expect(held.way).toBe({ nest: 'pockets', lines: 'pegs' }[method] ?? method);
    if ('name' in held.choice) expect(held.choice.name).toBe('BOATTAG');
  });

  it('keeps choice and findings apart, nothing of either lost', () => {
    const of = (method: string) => heldSection.parse(heldEarlier({ ...sections, hold: { ...hold, method } }, FLAT));
    expect(of('lines')).toMatchObject({ way: 'pegs', choice: { peg: 6, wall: 5 }, found: { card: 0.35 } });
    expect(of('locator')).toMatchObject({ choice: { boardThickness: 4, pitch: 10 }, found: { back: [0.1, 0.2] } });
    expect(of('feed')).toMatchObject({
      choice: { rails: true, pitch: 130, work: { kind: 'row', laid: 0.3, pushRoom: 3 } },
      found: { squaring: { apart: 400 } },
    });
    expect(of('panel').choice).toMatchObject({ width: 380, reads: 'over', marks: 3 });
  });

  it('keeps drafts of ways that were set up and left, and of no other', () => {
    const { left } = heldSection.parse(heldEarlier({ ...sections, hold: { ...hold, method: 'fence' } }, FLAT));
    expect(left.map((h) => h.way)).toEqual(['pockets', 'pegs', 'locator']);
  });

  it('takes a round blank without a drive for a cradle only where one was cut, begun or prepared', () => {
    const way = (faces: unknown[], batch: typeof ROUND, driveId: string | null = null) =>
      heldEarlier({ ...sections, drive: { ...drive, faces, driveId } }, batch)['way'];
    expect(way([], ROUND)).toBe('drive');
    expect(way([{}], ROUND)).toBe('cradle');
    expect(way([], { ...ROUND, lay: true })).toBe('cradle');
    expect(way([{}], { ...ROUND, lay: true }, ID)).toBe('drive');
    expect(heldEarlier({ ...sections, drive: { ...drive, driveId: ID } }, ROUND)).toMatchObject({
      choice: { driveId: ID, rimFaces: 'left' },
      found: { letter: { quarters: 1, mirrored: true }, numberSet: 51.81, accelerationSet: 1195, runOut: null },
    });
  });

  it('is taken whole by the contract of now, and a setup of now is left as it is', () => {
    const others = {
      lettering: { zoneId: null, lines: [], gap: 1.5, narrowest: 0.8, smallest: 1.5 },
      back: { zoneId: null, lines: [], gap: 1.5, narrowest: 0.8, smallest: 1.5, recipeId: null, deeper: 1 },
      place: { school: 'file', model: 'auto' },
      burn: { sweep: 'row' },
      looks: { pieces: [] },
      close: { notes: '', keep: '' },
    };
    const now = setupEarlier({ ...sections, ...others }, FLAT);
    // Files of its own go to the Shelf when they are met.
    const { art, ...rest } = now;
    expect(art).toBeNull();
    expect(setup.parse(now)).toEqual(rest);
    expect(setupEarlier(now, FLAT)).toBe(now);
  });

  it('keeps what stood beside, and freezes of a revision what was decided', () => {
    expect(beside.parse(besideEarlier(hold))).toMatchObject({
      boardWarp: 1,
      stock: { thickness: 4, readings: [3.9, 4] },
    });
    const kept = frozenEarlier({ ...hold, method: 'lines' });
    expect(chosen.parse(kept.held)).toMatchObject({ way: 'pegs', choice: { wall: 5 } });
    expect(kept.held).not.toHaveProperty('found');
    expect(Object.keys(kept.beside)).toEqual(['coverage', 'confidence', 'boardWarp', 'tallThings']);
  });
});

describe('a draft that an earlier page kept', () => {
  const stored = { held: heldEarlier(sections, FLAT), beside: besideEarlier(hold) };
  it('is laid over what is stored, in the form of now', () => {
    const drafts = draftsEarlier({ hold: { ...hold, wall: 7.5 }, burn: { sweep: 'piece' } }, stored, false);
    expect(Object.keys(drafts).sort()).toEqual(['beside', 'burn', 'held']);
    expect(heldSection.parse(drafts['held'])).toMatchObject({ way: 'pockets', choice: { wall: 7.5 } });
  });
  it('of one section alone takes the rest from what is stored', () => {
    const fed = { held: heldEarlier({ ...sections, hold: { ...hold, method: 'feed' } }, FLAT) };
    const drafts = draftsEarlier({ feed: { ...feed, pitch: 140 } }, fed, false);
    expect(heldSection.parse(drafts['held'])).toMatchObject({
      way: 'feed',
      choice: { name: 'BOATTAG', pitch: 140, work: { kind: 'row', laid: 0.3 } },
    });
  });
  it('of now stays as it is', () => {
    const drafts = { held: stored.held };
    expect(draftsEarlier(drafts, stored, false)).toBe(drafts);
  });
});
