import { driveOf } from './settings';
import { identity } from '../../geometry';
import { bareBed, blankSizes, fixtureBasis, reckonHeights, plainPlace, type Slot } from '../../holding';
import { plannedLoads, runSummary } from '../../runs';
import {
  headOver,
  noFixings,
  besideNow,
  heldNow,
  type BatchInput,
  reckonPlace,
  roundLettering,
  type PlacedFace,
  type Remark,
  type BatchReckoning,
  type ReckonOptions,
} from '../../setup';
import { listed } from '../../working';
import { artWarnings } from '../flat';
import { reckonRound } from './reckon';

/** The one place of a drive, so that a turned piece counts as a load of one. */
const ON_THE_DRIVE: Slot = { slot: 1, row: 0, column: 0, angle: 0, centre: { x: 0, y: 0 } };

/** What lies in a zone that no face carries. */
const elsewhere = ({ setup, blank }: BatchInput, face: PlacedFace | undefined): Remark[] => {
  const zones = new Set((setup.contents ?? []).filter((c) => c.zoneId !== face?.zone.id).map((c) => c.zoneId));
  const names = blank.zones.filter((z) => zones.has(z.id)).map((z) => z.name);
  return names.length === 0
    ? []
    : [
        {
          station: 'run',
          message: `${listed(names)} would stay bare: on round work one face carries what its zone does. Say under “what goes where” that it is this one, or put what lies there in ${face?.zone.name ?? 'a zone that has a face'}.`,
          danger: 'zone',
        },
      ];
};

/** Everything that follows for a round blank, on a drive or lying still. */
export const roundBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const { shape } = input.blank;
  if (shape.kind !== 'round') throw new Error(`A ${shape.kind} is not round.`);
  const round = reckonRound(input, shape, options);
  const beside = besideNow(input);
  const sizes = blankSizes(input.blank, beside.coverage, beside.confidence);
  const pocket = plainPlace(sizes);
  const face = round.faces.find((f) => f.choice.content.kind === 'lettering');
  const art = face ? roundLettering(input, face, options.alphabets, options.art) : null;
  const summary = runSummary({
    quantity: input.quantity,
    spares: input.spares,
    capacity: 1,
    firstApproved: input.firstApproved,
    pieces: input.pieces,
  });
  const next = input.pieces.find((p) => p.state === 'loaded')?.ordinal ?? summary.waiting[0];
  return {
    sizes,
    questions: [...round.questions],
    pocket,
    basis: fixtureBasis(input.blank, sizes, pocket),
    board: null,
    boardProblem: null,
    outOfDate: [],
    heights: reckonHeights(sizes.thickness.mean, bareBed(beside), headOver(input), []),
    zone: face?.zone ?? null,
    art,
    artBox: art && art.box.minX <= art.box.maxX ? art.box : { minX: -1, maxX: 1, minY: -1, maxY: 1 },
    place: reckonPlace(input, false, null, [], options.now),
    face: {
      side: 'front',
      blank: input.blank,
      lettering: input.setup.lettering,
      zone: face?.zone ?? null,
      // As it is burned: the drive goes by whole steps, and power follows.
      recipe:
        input.recipe && round.on?.interval ? { ...input.recipe, engrave: round.on.interval.burned } : input.recipe,
    },
    boardToBed: identity,
    placed: heldNow(input).way === 'cradle' || (round.on !== null && driveOf(input).letter !== null),
    budget: round.budget,
    run: summary,
    planned: plannedLoads(input.quantity, 1),
    onTheBoard: next === undefined ? [] : [{ slot: ON_THE_DRIVE, ordinal: next }],
    warnings: [
      ...round.warnings,
      ...(round.problem ? [{ station: 'drive', message: round.problem.message }] : []),
      ...artWarnings(art),
      ...elsewhere(input, face),
    ],
    own: { round },
    fixings: noFixings,
  };
};
