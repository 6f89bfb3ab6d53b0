import { Link } from 'react-router';
import { fixed, angleOf, heldAs } from '@bistre/core';
import type { SideShown } from '../../data/shown';
import { AimedPlace } from '../../stations/PlaceStation';
import { FlatDrawing } from '../flat/FlatDrawing';
import { FLAT_RUN } from '../flat/FlatRun';
import type { BatchProps, DrawingProps, StationProps, WayPages } from '../pages';
import { PanelFields } from './PanelFields';
import { PanelPlace } from './PanelPlace';
import { PanelReckon } from './PanelReckon';

/** Which side is up, and how the sheet lies with it. */
const lies = ({ reckoning: { face, place, boardToBed } }: SideShown, other: boolean): string => {
  const back = face.side === 'back';
  const turned = (angleOf(boardToBed) * 180) / Math.PI;
  return `Side ${back ? 'two' : 'one'} up${other ? (back ? ', as it will lie' : ', as it lay') : ''}. ${
    place.placement ? `It lies turned ${fixed(turned)}°, from its marks.` : 'Drawn square in the middle.'
  }`;
};

const Drawing = (props: DrawingProps) => <FlatDrawing {...props} lies={lies} />;

/** Side one needs no marks; side two is aimed at by those that side one cut. */
const Place = (props: StationProps) => {
  const { board, face } = props.shown.reckoning;
  return board && (face.side === 'front' || board.marks.length === 0) ? (
    <PanelPlace {...props} />
  ) : (
    <AimedPlace {...props} work="sheet" />
  );
};

const elsewhere = ({ handle, shown: { reckoning } }: BatchProps) =>
  reckoning.face.side === 'front' && reckoning.run.openLoad !== null ? (
    <p>
      Side one is on.{' '}
      <Link className="link" to={`/batches/${handle.batch.id}/place`}>
        Burn it and turn the sheet over at the Place station
      </Link>
      ; pieces are judged when both sides are burned.
    </p>
  ) : null;

export const panel: WayPages = {
  Drawing,
  stations: { place: Place },
  hold: {
    Settings: PanelFields,
    Reckon: PanelReckon,
    kept: {
      noun: 'sheet',
      words: (batch) => {
        const { width, height } = heldAs(batch, 'panel').choice;
        return `${width} × ${height} mm, both faces.`;
      },
    },
    aids: true,
  },
  run: { ...FLAT_RUN, bothFaces: true, dots: () => false, elsewhere },
};
