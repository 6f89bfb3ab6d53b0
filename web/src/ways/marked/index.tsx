import { AimedPlace } from '../../stations/PlaceStation';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN } from '../flat/FlatRun';
import type { DrawingProps, StationProps, WayPages } from '../pages';
import { OwnFields, OwnReckon } from './OwnFields';

const Drawing = (props: DrawingProps) => <FlatDrawing {...props} noun="Piece" />;

const Files = () => (
  <p className="text-soft">Nothing is made for it: the piece brings its marks. Aim at them at the Place station.</p>
);

const Place = (props: StationProps) => <AimedPlace {...props} work="work" print="piece" />;

export const marked: WayPages = {
  Drawing,
  stations: { place: Place },
  hold: { Settings: OwnFields, Reckon: OwnReckon, Files, kept: null, aids: true },
  run: FLAT_RUN,
};
