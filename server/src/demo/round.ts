import type { BlankSpec, DriveSpec, RecipeSpec } from '@bistre/contract';
import { accelerationSetting, setOnDrive, GLASS_TREATMENT, type Contour } from '@bistre/core';
import { hideDrive } from '@bistre/core/bench-sim';
import { loadWhole, reckonDocument } from '../batches';
import { record } from '../changes/change';
import { writeRoster } from '../changes/roster';
import type { Trx } from '../db/connect';
import { drawingFile } from '../drawing-file';
import { saveSimulation } from '../simulation';
import { shelfArt } from './art';
import { holding, type DemoShop, addBatch, addSamples, dueIn, gaussian, tick } from './kit';
import { harbourLight } from './picture';
import { keepPicture } from '../pictures';
import { plainPng } from '../plain-png';

/** Small rollers, one driven, that take the place of the y motor. */
const rollers: DriveSpec = {
  kind: 'roller',
  stepsPerTurn: 3200,
  reduction: 1,
  motorSide: 'left',
  height: 32,
  room: 330,
  axis: { letter: 'Y', unit: 'mm' },
  control: { kind: 'axis-steps', was: 80 },
  topMoves: 'toward',
  risers: [
    { name: '20 mm blocks', height: 20 },
    { name: 'low feet', height: -8 },
  ],
  axisAcceleration: 3000,
  backlash: 0,
  rollerDiameter: 19.66,
  centreDistance: 40,
  spacings: [{ apart: 60 }, { apart: 80 }],
  driven: 1,
  friction: 0.5,
  bandThickness: 0,
};

const chuck: DriveSpec = {
  kind: 'chuck',
  stepsPerTurn: 6400,
  reduction: 2,
  motorSide: 'left',
  height: 75,
  room: 260,
  axis: { letter: 'A', unit: 'degrees' },
  control: { kind: 'scale-art', stepsPerMm: 80 },
  topMoves: 'toward',
  risers: [],
  axisAcceleration: 600,
  backlash: 0.1,
  jaws: 110,
};

const HALF_TURN = Math.PI;

const flask: BlankSpec = {
  material: 'powder-coated steel',
  shape: {
    kind: 'round',
    profile: [
      { at: 0, diameter: 88 },
      { at: 150, diameter: 68 },
    ],
    wall: 1.6,
    material: 'steel',
    filled: false,
    lid: true,
    capacity: 0.55,
    feature: {
      kind: 'seam weld',
      reach: 0,
      from: 0,
      to: 150,
      mass: 0,
      // The maker's stamp, opposite the weld over the base.
      others: [{ kind: 'existing logo', reach: 0, from: 125, to: 143, mass: 0, width: 22, angle: HALF_TURN }],
    },
  },
  thickness: 88,
  catalogueTolerance: 0.4,
  holes: [],
  direction: { kind: 'none' },
  zones: [
    {
      id: 'front',
      name: 'front',
      x: 70,
      y: 0,
      width: 60,
      height: 50,
      margin: 2,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
      angle: HALF_TURN / 2,
    },
    {
      id: 'back',
      name: 'back',
      x: 70,
      y: 0,
      width: 40,
      height: 76,
      margin: 2,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
      angle: -HALF_TURN / 2,
    },
  ],
};

const glass: BlankSpec = {
  material: 'glass',
  shape: {
    kind: 'round',
    profile: [
      { at: 0, diameter: 74 },
      { at: 140, diameter: 74 },
    ],
    wall: 3,
    material: 'glass',
    filled: false,
    lid: false,
    capacity: 0.4,
    feature: null,
  },
  thickness: 74,
  catalogueTolerance: 0.5,
  holes: [],
  direction: { kind: 'none' },
  zones: [
    {
      id: 'band',
      name: 'wave band',
      x: 30,
      y: 0,
      width: 22,
      height: 226,
      margin: 2,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
      angle: 0,
    },
    {
      id: 'face',
      name: 'front',
      x: 80,
      y: 0,
      width: 30,
      height: 60,
      margin: 2,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
      angle: 0,
    },
  ],
};

const grip: BlankSpec = {
  shape: {
    kind: 'round',
    profile: [
      { at: 0, diameter: 34 },
      { at: 130, diameter: 34 },
    ],
    wall: 17,
    material: 'wood',
    filled: false,
    lid: false,
    capacity: null,
    feature: null,
  },
  thickness: 34,
  catalogueTolerance: 0.6,
  holes: [],
  direction: { kind: 'none' },
  zones: [
    {
      id: 'side',
      name: 'side',
      x: 65,
      y: 0,
      width: 80,
      height: 9,
      margin: 0.5,
      across: 'centre',
      down: 'middle',
      keepOuts: [],
      angle: 0,
    },
  ],
};

/** The regatta's crest: a shield with a rim and three waves. */
export const crest = (): Contour[] => {
  const shield = (k: number): { x: number; y: number; bulge?: number }[] => [
    { x: -20 * k, y: 22 * k },
    { x: -20 * k, y: 0, bulge: 0.35 },
    { x: 0, y: -26 * k, bulge: 0.35 },
    { x: 20 * k, y: 0 },
    { x: 20 * k, y: 22 * k },
  ];
  const wave = (y: number, half: number): Contour => {
    const top: { x: number; y: number }[] = [];
    for (let i = 0; i <= 40; i += 1) {
      const x = -half + (2 * half * i) / 40;
      top.push({ x, y: y + 1.6 * Math.sin((x / 7) * Math.PI) });
    }
    const bottom = [...top].reverse().map((p) => ({ x: p.x, y: p.y - 2.4 }));
    return { closed: true, vertices: [...bottom.reverse(), ...top.reverse()] };
  };
  return [
    { closed: true, vertices: shield(1) },
    // Wound the other way: a hole.
    { closed: true, vertices: reversed(shield(0.88)) },
    wave(12, 15),
    wave(4, 15),
    wave(-4, 13),
  ];
};

/** A contour run backwards, its arcs with it. */
const reversed = (
  vertices: readonly { x: number; y: number; bulge?: number }[],
): { x: number; y: number; bulge?: number }[] =>
  vertices.map((_, i) => {
    const v = vertices[vertices.length - 1 - i]!;
    const before = vertices[(vertices.length - 2 - i + vertices.length) % vertices.length]!;
    return before.bulge === undefined ? { x: v.x, y: v.y } : { x: v.x, y: v.y, bulge: -before.bulge };
  });

/** Eight waves that meet themselves round a glass. */
export const waveBand = (): Contour[] => {
  const [length, waves, points] = [232, 8, 240];
  const edge = (y: number): { x: number; y: number }[] =>
    Array.from({ length: points + 1 }, (_, i) => {
      const x = (length * i) / points;
      return { x, y: y + 4 * Math.sin((2 * Math.PI * waves * x) / length) };
    });
  const band = (low: number, high: number): Contour => ({
    closed: true,
    vertices: [...edge(low), ...edge(high).reverse()],
  });
  return [band(0, 3), band(6, 7.5)];
};

const steelRecipe: RecipeSpec = {
  material: 'powder-coated steel',
  engrave: { power: 0.45, speed: 250, interval: 0.08467, passes: 1 },
  cut: { power: 0.7, speed: 12, interval: 0.1, passes: 1 },
  note: 'Trial 21 of 9 Nov 2026 on a spoiled flask: coating gone, steel bright',
};
const glassRecipe: RecipeSpec = {
  material: 'glass',
  engrave: { power: 0.3, speed: 200, interval: 0.0635, passes: 1 },
  cut: { power: 0.7, speed: 12, interval: 0.1, passes: 1 },
  note: '',
};

const UMPIRES = ['M. ARLEN', 'T. BRISKE', 'J. CORVEY', 'E. DANSK', 'P. ELMSTED', 'R. FARROW'];

const addDrive = async (trx: Trx, name: string, spec: DriveSpec): Promise<string> =>
  (
    await trx
      .insertInto('drives')
      .values({ name, spec: JSON.stringify(spec) })
      .returning('id')
      .executeTakeFirstOrThrow()
  ).id;

/** The flasks as they stand: the axis slowed down and on the putback list, its number still to be typed in. */
const halfwayThrough = async (trx: Trx, id: string): Promise<void> => {
  const batch = await loadWhole(trx, id);
  const on = reckonDocument(batch, 200).reckoning.own.round!.on!;
  const acceleration = Math.floor(on.throwing.recommended);
  await trx
    .updateTable('batches')
    .set({
      setup: JSON.stringify({
        ...batch.setup,
        held: setOnDrive(batch.setup.held, { accelerationSet: acceleration }),
      }),
    })
    .where('id', '=', id)
    .execute();
  const putback = async (setting: string, was: number, now: number): Promise<void> => {
    await trx
      .insertInto('putbacks')
      .values({
        batch_id: id,
        machine_id: batch.machine.id,
        setting,
        was: String(was),
        now: String(now),
        restored_at: null,
        restored_by: null,
      })
      .execute();
    await record(trx, {
      by: 'Imre',
      kind: 'putback',
      batchId: id,
      summary: `${setting} set to ${now}; to be put back to ${was}`,
    });
  };
  await putback(accelerationSetting(on.drive), on.drive.axisAcceleration, acceleration);
  await saveSimulation(trx, id, { hidden: hideDrive(23), panel: { value: on.control.was!, acceleration } });
};

/** Round blanks, drives and three batches: flasks halfway through their calibration, glasses, grips. */
export const seedRound = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const rollerId = await addDrive(trx, 'Rollers', rollers);
  const chuckId = await addDrive(trx, 'Chuck', chuck);
  const flaskId = await shop.blank('Umpire flask', flask);
  const glassId = await shop.blank('Trophy glass', glass);
  const gripId = await shop.blank('Oar grip', grip);
  await addSamples(trx, flaskId, { diameter: gaussian(31, 88.04, 0.06, 8), tape: [276.6, 276.5] });
  await addSamples(trx, glassId, { diameter: gaussian(33, 74.1, 0.15, 6) });
  await addSamples(trx, gripId, { diameter: gaussian(37, 34.02, 0.2, 6) });
  const steel = await shop.recipe('Coated steel, 300 lines', shop.a, steelRecipe);
  const wood = await shop.recipe('Ash grip, fine', shop.a, {
    ...steelRecipe,
    material: 'ash wood, oiled',
    engrave: { power: 0.25, speed: 300, interval: 0.1, passes: 1 },
    note: '',
  });
  const frost = await shop.recipe('Glass, 400 lines', shop.a, glassRecipe);

  const ofFills = (contours: readonly Contour[]): string => drawingFile(contours.map((contour) => ({ kind: 'fill', contour }))); // prettier-ignore
  const waves = await shelfArt(trx, 'Waves', ofFills(waveBand()));
  const shield = await shelfArt(trx, 'Shield', ofFills(crest()));
  const flasks = await addBatch(trx, {
    name: 'Umpire flasks',
    quantity: 48,
    spares: 2,
    tolerance: 1,
    due: dueIn(5, 11),
    machine: shop.a,
    blank: flaskId,
    recipe: steel,
    held: holding('drive', { driveId: rollerId }),
    faces: [
      {
        zoneId: 'front',
        content: { kind: 'artwork', artworkId: shield, revision: 1, name: 'Shield' },
        reads: 'around',
        repeats: 1,
        wraps: false,
      },
      { zoneId: 'back', content: { kind: 'lettering' }, reads: 'around', repeats: 1, wraps: false },
    ],
    lines: [
      { column: 'name', alphabet: 'b612-bold', capHeight: 8 },
      { column: 'post', alphabet: 'b612', capHeight: 4 },
    ],
  });
  await writeRoster(
    trx,
    flasks,
    ['name', 'post'],
    Array.from({ length: 48 }, (_, i) => ({ name: UMPIRES[i % 6]!, post: `UMPIRE · POST ${i + 1}` })),
  );
  await record(trx, {
    by: 'Odile',
    kind: 'roster',
    batchId: flasks,
    summary: 'Roster brought in: 48 rows, columns name, post',
  });
  for (const step of ['home', 'switches', 'plug', 'stand', 'power-on', 'unlock'])
    await tick(trx, flasks, `drive.${step}`);
  await tick(trx, flasks, 'blank.measure');
  await halfwayThrough(trx, flasks);

  const plain = await plainPng(await harbourLight(), 'harbour light.png');
  const light = await keepPicture(trx, plain, 'harbour light.png', 'Odile');
  await addBatch(trx, {
    name: 'Trophy glasses',
    quantity: 24,
    spares: 2,
    tolerance: 1.2,
    due: dueIn(8, 16),
    machine: shop.a,
    blank: glassId,
    recipe: frost,
    held: holding('drive', { driveId: chuckId, seam: { kind: 'seamless', gap: 0 } }),
    faces: [
      {
        zoneId: 'band',
        content: { kind: 'artwork', artworkId: waves, revision: 1, name: 'Waves' },
        reads: 'around',
        repeats: 1,
        wraps: true,
      },
      {
        zoneId: 'face',
        content: {
          kind: 'picture',
          pictureId: light.id,
          name: light.name,
          width: light.width,
          height: light.height,
          darkness: light.darkness,
          treatment: GLASS_TREATMENT,
        },
        reads: 'around',
        repeats: 1,
        wraps: false,
      },
    ],
    lines: [],
  });
  const grips = await addBatch(trx, {
    name: 'Oar grips',
    quantity: 8,
    spares: 1,
    tolerance: 1,
    due: dueIn(11, 10),
    machine: shop.a,
    blank: gripId,
    recipe: wood,
    held: holding('cradle', {}),
    faces: [{ zoneId: 'side', content: { kind: 'lettering' }, reads: 'down', repeats: 1, wraps: false }],
    lines: [{ column: 'boat', alphabet: 'b612-bold', capHeight: 6 }],
  });
  await writeRoster(
    trx,
    grips,
    ['boat'],
    ['KESTREL', 'PUFFIN', 'SANDLING', 'DUNLIN', 'KNOT', 'GANNET', 'FULMAR', 'REDSHANK'].map((boat) => ({ boat })),
  );
};
