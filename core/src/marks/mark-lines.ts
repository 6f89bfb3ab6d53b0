import { circle, segment, type Contour } from '../geometry';
import { MARK_DIAMETER, type MarkPlace } from './mark-place';

/** A registration mark as it is drawn. */
export const markContours = ({ at, look }: MarkPlace): Contour[] => {
  const r = (look?.size ?? MARK_DIAMETER) / 2;
  const { x, y } = at;
  const cross = [segment({ x: x - r, y }, { x: x + r, y }), segment({ x, y: y - r }, { x, y: y + r })];
  switch (look?.kind ?? 'cross-circle') {
    case 'cross-circle':
      return [circle(at, r), ...cross];
    case 'cross':
      return cross;
    case 'ring':
    case 'dot':
      return [circle(at, r)];
    case 'corner':
      return [segment({ x, y }, { x: x + 2 * r, y }), segment({ x, y }, { x, y: y + 2 * r })];
  }
};

/** A mark cut through a sheet: the cross alone, since its circle would fall out. */
export const crossContours = (mark: MarkPlace): Contour[] => markContours(mark).slice(1);
