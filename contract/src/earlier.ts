/**
 * Setups as they were kept before every way of holding had its own: settings of all ways side by side, what was
 * decided and what was seen mixed. Read by the migration of stored ones and by pages that kept a draft of one.
 * What a release wrote is fixed: nothing here follows later changes.
 */

type Json = Readonly<Record<string, unknown>>;
const asJson = (value: unknown): Json => (value ?? {}) as Json;

const pick = (from: Json, keys: readonly string[]): Json =>
  Object.fromEntries(keys.flatMap((k) => (from[k] === undefined ? [] : [[k, from[k]] as const])));
const without = (from: Json, keys: readonly string[]): Json =>
  Object.fromEntries(Object.entries(from).filter(([k]) => !keys.includes(k)));

/** The sections that were kept in another form, as they were. */
export interface EarlierSections {
  readonly hold: unknown;
  readonly long: unknown;
  readonly drive: unknown;
  readonly feed: unknown;
}

/** What of a batch decided how it was held, beside its sections. */
export interface EarlierBatch {
  readonly round: boolean;
  /** Round work that was cut a cradle for, or begun without a drive. */
  readonly lay: boolean;
}

const BOARD = [
  'boardThickness',
  'wall',
  'extent',
  'turned',
  'notches',
  'notchRadius',
  'slotNumbers',
  'marks',
  'order',
  'name',
] as const;
const CUT = ['turned', 'marks', 'order', 'name'] as const;
const PHOTO_SEEN = [
  'offcuts',
  'others',
  'density',
  'found',
  'left',
  'spread',
  'marks',
  'seenBy',
  'afterLoad',
  'takenAt',
] as const;
const DRIVE_SEEN = ['found', 'accelerationSet', 'numberSet', 'runOut', 'faces'] as const;

const WAYS: Readonly<Record<string, string>> = { nest: 'pockets', lines: 'pegs' };
const FRESH_LONG = { loading: 'through', feed: 'y', margin: 15, overlap: 0, markInset: 10, smallText: 15 };

const worksOf = (hold: Json, feed: Json, long: Json): readonly Json[] => [
  { kind: 'row', laid: feed['laid'] ?? 0.2, pushRoom: hold['pushRoom'] ?? 3 },
  { kind: 'parts', interlock: feed['interlock'] ?? true },
  { kind: 'long', long: { ...FRESH_LONG, ...without(long, ['art']) } },
];

/** Every way as the sections held it. */
const all = ({ hold: h, long: l, drive: d, feed: f }: EarlierSections): Readonly<Record<string, Json>> => {
  const [hold, long, drive, feed] = [asJson(h), asJson(l), asJson(d), asJson(f)];
  const part = (key: string): Json => asJson(hold[key]);
  const board = pick(hold, BOARD);
  const { name } = hold;
  const works = worksOf(hold, feed, long);
  const work = works.find((w) => w['kind'] === (feed['work'] ?? 'row'))!;
  const photo = part('photo');
  const made = (way: string, choice: Json, found: Json = {}): Json => ({ way, choice, found });
  return {
    pockets: made('pockets', { ...board, clearance: hold['clearance'] ?? { school: 'loose' } }),
    fence: made('fence', { ...board, pushRoom: hold['pushRoom'] ?? 3 }),
    pegs: made('pegs', { ...board, ...without(part('lines'), ['card']) }, { card: part('lines')['card'] ?? null }),
    locator: made(
      'locator',
      { ...pick(hold, ['name', 'boardThickness', 'order']), ...without(part('locator'), ['back']) },
      { back: part('locator')['back'] ?? [] },
    ),
    sheet: made('sheet', { ...pick(hold, CUT), ...part('sheet') }),
    panel: made('panel', { ...pick(hold, CUT), ...part('panel') }),
    long: made('long', { name, ...FRESH_LONG, ...without(long, ['art']) }),
    marked: made('marked', { name, own: hold['own'] ?? { marks: [], stretches: false } }),
    feed: made(
      'feed',
      {
        name,
        ...pick(feed, ['feederId', 'rails', 'turned', 'pitch', 'gap', 'strip', 'aimEvery']),
        work,
        left: works.filter((w) => w !== work && (w['kind'] !== 'long' || long['art'])),
      },
      { squaring: feed['squaring'] ?? null, used: feed['used'] ?? [] },
    ),
    photo: made(
      'photo',
      { name, ...without(photo, PHOTO_SEEN) },
      { ...without(pick(photo, PHOTO_SEEN), ['found']), blanks: photo['found'] ?? [] },
    ),
    drive: made('drive', without(drive, DRIVE_SEEN), {
      letter: drive['found'] ?? null,
      ...pick(drive, ['accelerationSet', 'numberSet', 'runOut']),
    }),
    cradle: made('cradle', pick(drive, ['rimFaces'])),
  };
};

/** Whether a way was set up at all: nobody tried one whose own numbers stand as they were given. */
const wasTried = (way: string, { hold: h, long, drive, feed }: EarlierSections): boolean => {
  const hold = asJson(h);
  switch (way) {
    case 'pockets':
      return (asJson(hold['clearance'])['school'] ?? 'loose') !== 'loose';
    case 'pegs':
      return asJson(hold['lines'])['card'] != null || asJson(hold['lines'])['contacts'] != null;
    case 'locator':
      return ((asJson(hold['locator'])['back'] as readonly unknown[] | undefined)?.length ?? 0) > 0;
    case 'sheet':
      return asJson(hold['sheet'])['traced'] != null;
    case 'long':
      return asJson(long)['art'] != null;
    case 'marked':
      return ((asJson(hold['own'])['marks'] as readonly unknown[] | undefined)?.length ?? 0) > 0;
    case 'feed':
      return asJson(feed)['feederId'] != null;
    case 'photo':
      return asJson(hold['photo'])['takenAt'] != null;
    case 'drive':
      return asJson(drive)['driveId'] != null;
    default:
      return false;
  }
};

/** How a batch was held, in the form it is kept in now; ways that were set up and left keep their drafts. */
export const heldEarlier = (sections: EarlierSections, { round, lay }: EarlierBatch): Json => {
  const ways = all(sections);
  const drive = asJson(sections.drive);
  const method = String(asJson(sections.hold)['method'] ?? 'nest');
  const way = round
    ? drive['driveId'] == null && (lay || ((drive['faces'] as readonly unknown[] | undefined)?.length ?? 0) > 0)
      ? 'cradle'
      : 'drive'
    : (WAYS[method] ?? method);
  const left = Object.keys(ways).filter((w) => w !== way && wasTried(w, sections));
  return { ...ways[way], left: left.map((w) => ways[w]) };
};

/** What stood beside the way. */
export const besideEarlier = (section: unknown): Json => {
  const hold = asJson(section);
  return {
    ...pick(hold, ['coverage', 'confidence', 'boardWarp', 'tallThings', 'pins', 'stand']),
    stock: { thickness: hold['boardThickness'] ?? 3, ...asJson(hold['stock']) },
  };
};

/** What a fixture's revision keeps of how it was held. */
export const frozenEarlier = (hold: unknown): { readonly held: Json; readonly beside: Json } => {
  const sections = { hold, long: {}, drive: {}, feed: {} };
  return {
    held: pick(heldEarlier(sections, { round: false, lay: false }), ['way', 'choice']),
    beside: pick(asJson(hold), ['coverage', 'confidence', 'boardWarp', 'tallThings']),
  };
};

/** Sections of now out of those that a change of an earlier section touched. */
export const sectionsEarlier = (
  section: keyof EarlierSections,
  sections: EarlierSections,
  batch: EarlierBatch,
): Json => ({
  held: heldEarlier(sections, batch),
  ...(section === 'hold' ? { beside: besideEarlier(sections.hold) } : {}),
  ...(section === 'long' ? { art: asJson(sections.long)['art'] ?? null } : {}),
  ...(section === 'drive' ? { faces: asJson(sections.drive)['faces'] ?? [] } : {}),
});

/** A whole setup as it is kept now. */
export const setupEarlier = (setup: Json, batch: EarlierBatch): Json => {
  if (setup['hold'] === undefined) return setup;
  const { hold, long, drive, feed, ...rest } = setup;
  const sections = { hold, long, drive, feed };
  return {
    ...rest,
    held: heldEarlier(sections, batch),
    beside: besideEarlier(hold),
    art: asJson(long)['art'] ?? null,
    faces: asJson(drive)['faces'] ?? [],
  };
};

const EARLIER = ['hold', 'long', 'drive', 'feed'] as const;
const METHODS: Readonly<Record<string, string>> = { pockets: 'nest', pegs: 'lines' };

/** The setup of now as the earlier sections would have held it: what a draft of one of them was laid over. */
const sectionsBelow = (held: Json): EarlierSections => {
  const [choice, found, way] = [asJson(held['choice']), asJson(held['found']), String(held['way'])];
  const own = (only: string, value: Json): Json => (way === only ? value : {});
  return {
    hold: {
      method: METHODS[way] ?? way,
      ...pick(choice, [...BOARD, 'clearance', 'pushRoom', 'own']),
      lines: own('pegs', { ...choice, ...found }),
      locator: own('locator', { ...choice, ...found }),
      sheet: own('sheet', choice),
      panel: own('panel', choice),
      photo: own('photo', { ...choice, ...found, found: found['blanks'] }),
    },
    long: own('long', choice),
    drive: own('drive', { ...choice, ...found, found: found['letter'] }),
    feed: own('feed', { ...choice, ...found, ...asJson(choice['work']), work: asJson(choice['work'])['kind'] }),
  };
};

/**
 * Parts of a setup that a browser kept because they were not saved yet, in the sections of now; what was not one of
 * the earlier sections stays as it is.
 * @param setup as it is stored now
 */
export const draftsEarlier = (drafts: Json, setup: Json, round: boolean): Json => {
  const touched = EARLIER.filter((s) => drafts[s] !== undefined);
  if (touched.length === 0) return drafts;
  const now = asJson(setup['held']);
  const sections = { ...sectionsBelow(now), ...pick(drafts, EARLIER) };
  const batch = { round, lay: now['way'] === 'cradle' };
  const made = touched.reduce<Json>((all, section) => ({ ...all, ...sectionsEarlier(section, sections, batch) }), {
    ...without(drafts, EARLIER),
  });
  // Ways that were left keep their drafts as they are stored; the one that is left now joins them.
  const { left, ...was } = now;
  const way = asJson(made['held'])['way'];
  const kept = [...((left as readonly Json[] | undefined) ?? []), ...(was['way'] === way ? [] : [was])];
  return { ...made, held: { ...asJson(made['held']), left: kept.filter((h) => h['way'] !== way) } };
};
