import { boxHeight, boxWidth } from '../geometry';
import type { Zone } from '../holding';
import { fixed, mm, worked, type WorkedLine } from '../working';
import type { LaidArt } from './content';
import { zoneRoom } from './zone';

/** How its size follows: from its file, from what was said, or from the room of its zone. */
const sizeLines = ({ content: { size, turn }, box, scale, artwork }: LaidArt, zone: Zone): WorkedLine[] => {
  const [width, height] = [boxWidth(box), boxHeight(box)];
  const [ownWidth, ownHeight] = [width / scale, height / scale];
  const own = artwork ? 'its file’s own' : 'its own';
  const basis = size.kind === 'fit' ? 'geometry' : size.kind === 'true' ? 'measured in its file' : 'typed';
  const room = zoneRoom(zone);
  const times = (formula: string, put: string): WorkedLine => worked('times its own size', formula, put, fixed(scale, 3), basis); // prettier-ignore
  const turned = turn === 0 ? '' : ', as it lies turned';
  const scaled = {
    true: () => times(`as large as ${own} size`, fixed(scale, 3)),
    width: () => times(`width said ÷ ${own}${turned}`, `${mm(width)} ÷ ${mm(ownWidth)}`),
    height: () => times(`height said ÷ ${own}${turned}`, `${mm(height)} ÷ ${mm(ownHeight)}`),
    fit: () => times(`the lesser of room ÷ ${own}, both ways${turned}`, `min(${mm(room.width)} ÷ ${mm(ownWidth)}, ${mm(room.height)} ÷ ${mm(ownHeight)})`), // prettier-ignore
  };
  return [
    scaled[size.kind](),
    worked('size', `${own} × times`, `${mm(ownWidth)} × ${fixed(scale, 3)}, ${mm(ownHeight)} × ${fixed(scale, 3)}`, `${fixed(width)} × ${mm(height)}`, 'geometry'), // prettier-ignore
  ];
};

/**
 * How the figures of something that lies in a zone follow.
 *
 * @param zone that it lies in, blank frame, mm
 */
export const laidWorking = (laid: LaidArt, zone: Zone): readonly WorkedLine[] => {
  const { content, box, scale, room, edges, doubt } = laid;
  const half = zone.width / 2 - zone.margin;
  const modules = Math.round(boxWidth(box) / scale);
  return [
    ...sizeLines(laid, zone),
    worked('room on the left', 'its left edge − (middle of the zone − half its width + margin)', `${mm(box.minX)} − (${mm(zone.x)} − ${mm(half)})`, mm(room.left), 'geometry'), // prettier-ignore
    worked('to the left edge of the piece', 'its left edge − that of the piece', `${mm(box.minX)} − ${mm(box.minX - edges.left)}`, mm(edges.left), 'geometry'), // prettier-ignore
    ...(content.kind === 'code'
      ? [worked('one module', 'width ÷ modules, its clear rim with them', `${mm(boxWidth(box))} ÷ ${modules}`, mm(scale, 3), content.symbology === 'qr' ? 'published: ISO/IEC 18004' : 'published: ISO/IEC 16022')] // prettier-ignore
      : []),
    ...(doubt === undefined
      ? []
      : [worked('outlines known to', '2 × doubt in its file × times', `2 × ${mm(doubt / scale, 3)} × ${fixed(scale, 3)}`, `± ${mm(2 * doubt)}`, 'assumed')]), // prettier-ignore
  ];
};
