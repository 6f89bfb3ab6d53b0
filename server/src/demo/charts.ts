import type { BlankSpec, RecipeSpec } from '@bistre/contract';
import type { Trx } from '../db/connect';
import { inZones, shelfArt } from './art';
import { addBatch, addSamples, dueIn, gaussian, holding, type DemoShop } from './kit';

/** The course as the race committee drew it: the shore filled, lanes and buoys as lines, start and finish to be scored deep. */
const CHART = `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" width="180mm" height="100mm" viewBox="0 0 180 100">
  <style>.land{fill:#5a4632}.lane{fill:none;stroke:#1d4f91;stroke-width:.3}.gate{fill:none;stroke:#c01818;stroke-width:.8}</style>
  <path class="land" d="M0 0H180V13C166 17 152 9 136 14 118 20 104 11 86 15 66 20 48 10 30 16 18 20 8 15 0 18Z"/>
  <path class="land" d="M0 100V88C16 83 28 92 46 87 62 82 74 90 92 86 112 81 128 91 146 86 160 82 170 88 180 84V100Z"/>
  <g class="lane">
    ${Array.from({ length: 7 }, (_, i) => `<path d="M20 ${30 + 7 * i}H160"/>`).join('')}
    ${Array.from(
      { length: 21 },
      (_, i) => `<circle cx="${20 + 35 * (i % 5)}" cy="${30 + 14 * Math.floor(i / 5)}" r=".9"/>`,
    )
      .slice(0, 20)
      .join('')}
  </g>
  <path class="gate" d="M20 26V76M160 26V76"/>
</svg>
`;

const panel: BlankSpec = {
  material: 'alder, 4 mm',
  shape: { kind: 'rectangle', length: 200, width: 120, cornerRadius: 2 },
  thickness: 4,
  catalogueTolerance: 0.4,
  holes: [],
  direction: { kind: 'none' },
  zones: [
    { id: 'face', name: 'chart', x: 0, y: 0, width: 190, height: 110, margin: 2, across: 'centre', down: 'middle', keepOuts: [] }, // prettier-ignore
  ],
};

const alder = (engrave: RecipeSpec['engrave'], note: string): RecipeSpec => ({
  material: 'alder, 4 mm',
  engrave,
  cut: { power: 0.85, speed: 12, interval: engrave.interval, passes: 1 },
  note,
});

/** Charts of the course on alder: an area, lines, and a score beside them by a recipe of its own. */
export const seedCharts = async (trx: Trx, shop: DemoShop): Promise<void> => {
  const chart = await shelfArt(trx, 'Course chart', CHART);
  const blank = await shop.blank('Chart panel, alder', panel);
  await addSamples(trx, blank, {
    length: gaussian(511, 200.05, 0.08, 8),
    width: gaussian(513, 120.02, 0.08, 8),
    thickness: gaussian(517, 4.02, 0.05, 6),
  });
  const even = alder({ power: 0.22, speed: 300, interval: 0.1, passes: 1 }, 'Trial 48 of 28 Nov 2026: even brown, lines sharp'); // prettier-ignore
  const deep = alder({ power: 0.45, speed: 60, interval: 0.1, passes: 1 }, 'Trial 49 of 28 Nov 2026: 0.8 mm deep, sides clean'); // prettier-ignore
  const recipe = await shop.recipe('Alder, engraved', shop.a, even);
  const score = await shop.recipe('Alder, scored', shop.a, deep);
  const batch = await addBatch(trx, {
    name: 'Course charts, alder',
    quantity: 4,
    spares: 1,
    tolerance: 1,
    due: dueIn(20, 16),
    machine: shop.a,
    blank,
    recipe,
    stock: shop.ply.a,
    held: holding('pockets', { name: 'CHART-4', extent: { kind: 'count', count: 4 }, clearance: { school: 'snug' } }),
    lines: [],
  });
  await inZones(trx, batch, [
    { kind: 'artwork', id: 'chart', zoneId: 'face', artworkId: chart, revision: 1, size: { kind: 'true' }, recipes: [{ style: 'stroke #c01818', recipeId: score }], turn: 0, mirrored: false }, // prettier-ignore
  ]);
};
