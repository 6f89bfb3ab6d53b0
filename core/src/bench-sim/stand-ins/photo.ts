import { seeded } from '../../budget';
import { AXIS_OFF, type GreyPicture } from '../../photo';
import { heldAs } from '../../setup';
import { photograph, someCamera } from '../camera';
import { layBoard } from '../machine';
import { asDrawn, partOfSheet } from '../run';
import { thingsOf, throwBlanks, throwOffcuts, trueInPlace } from '../scatter';
import { BOARD } from './lying';
import { asPlaced, bareBench, cutFree, type Bench, type BenchState, type StandIn } from './stand-in';

/** Most blanks that a hand throws on a bed at once. */
const MOST_THROWN = 24;

/** Which time blanks were thrown: when every blank of the last photograph is burned, new ones are laid. */
const timeOf = (state: BenchState, { input, reckoning }: Bench): number => {
  const { afterLoad } = heldAs(input, 'photo').found;
  const used = input.pieces.some((p) => p.load > afterLoad && p.state !== 'loaded');
  return used && reckoning.own.photo!.free === 0 && reckoning.run.openLoad === null
    ? Math.max(0, ...input.pieces.map((p) => p.load))
    : (state.thrown?.time ?? 0);
};

const stands: StandIn['stands'] = (stored, bench) => {
  const state: BenchState = stored ?? bareBench(bench);
  const { input, reckoning, seeds } = bench;
  const { field, onSheet } = reckoning.own.photo!;
  const time = timeOf(state, bench);
  const across = field.width;
  const thrown =
    state.thrown?.time === time && state.thrown.across === across
      ? state.thrown
      : {
          time,
          across,
          blanks: throwBlanks(
            (state.hidden.seed + time * 101) >>> 0,
            field,
            input.blank,
            reckoning.sizes,
            Math.min(MOST_THROWN, Math.max(1, reckoning.run.waiting.length)),
          ),
        };
  // A sheet lies somewhere on the bed; burned marks lie where the machine put them.
  const pose = onSheet ? layBoard(seeds.batch, input.machine, field).hidden.pose : { angle: 0, x: 0, y: 0 };
  return { ...state, thrown, hidden: { ...state.hidden, pose } };
};

/** Side walls as light as the blanks’ faces, or darker, as the room’s light falls on them. */
const wallOf = (seed: number): number => 70 + 118 * seeded(seed * 61 + 3).uniform();

/** A lamp of the room throws a soft shadow to one side. */
const shadowOf = (seed: number): NonNullable<Parameters<typeof photograph>[0]['shadow']> => {
  const r = seeded(seed * 67 + 5);
  return { towards: 2 * Math.PI * r.uniform(), long: 0.4 + 0.8 * r.uniform(), dark: 0.2 + 0.4 * r.uniform() };
};

const picture = ({ input, reckoning, seeds }: Bench, state: BenchState, shot: number, dots: number): GreyPicture => {
  const { field: bed, parts, marks } = reckoning.own.photo!;
  const things = parts
    ? throwOffcuts((state.hidden.seed + (state.thrown?.time ?? 0)) >>> 0, bed, reckoning.sizes.thickness.mean)
    : thingsOf(state.thrown?.blanks ?? [], input.blank, reckoning.sizes, 188, wallOf(seeds.batch));
  const ratio = bed.width >= bed.height ? 4 / 3 : 3 / 4;
  const [width, height] = ratio > 1 ? [dots, dots / ratio] : [dots * ratio, dots];
  const seed = seeds.batch + shot;
  const held = someCamera(seed, bed, width, height);
  const up = heldAs(input, 'photo').choice.cameraHeight;
  // Its lens's axis meets the picture as far from the middle as lenses' do.
  const off = seeded(seed * 73 + 11);
  const axis = { x: AXIS_OFF * width * (2 * off.uniform() - 1), y: AXIS_OFF * width * (2 * off.uniform() - 1) };
  return photograph(
    {
      ...held,
      axis,
      shadow: shadowOf(seeds.batch),
      at: { ...held.at, height: up },
      focal: (held.focal * up) / held.at.height,
    },
    marks,
    things,
    seed,
  );
};

/** The bed with blanks or offcuts thrown on it; the machine's frame is the work's. */
export const photo: StandIn = {
  ...BOARD,
  axes: undefined,
  stands,
  meant: (bench) => (bench.reckoning.own.photo?.parts ? cutFree(bench) : asPlaced(bench)),
  seating: ({ reckoning }, state) =>
    reckoning.own.photo?.parts
      ? partOfSheet(reckoning.sizes)
      : {
          ...asDrawn(reckoning.sizes),
          lies: (slot) => trueInPlace(slot, state.thrown?.blanks ?? [], reckoning.sizes),
        },
  photograph: picture,
};
