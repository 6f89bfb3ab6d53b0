import {
  markContours,
  PHOTO_MARK,
  photoMarkContours,
  type BatchInput,
  type BatchReckoning,
  type Transform,
} from '@bistre/core';
import { refused } from '../http/problem';
import { bar, draw, INK, plain, PT, start } from './paper';

/** The camera's marks on a sheet of paper, true size, with a bar to measure and the machine's side named. */
export const markSheet = (
  input: BatchInput,
  { own: { photo }, board }: BatchReckoning,
  title: string,
): Promise<Buffer> => {
  if (!photo?.onSheet)
    throw refused({
      code: 'no-sheet',
      message: 'This batch does not use a printed sheet of marks. Choose it at the Hold station.',
      field: 'hold.photo.marksOn',
    });
  const { width, height } = photo.field;
  const { doc, done } = start(`${title}: sheet of marks`, [width * PT, height * PT]);
  doc.page.margins = { top: 0, bottom: 0, left: 0, right: 0 };
  const place: Transform = { a: PT, b: 0, c: 0, d: -PT, e: 0, f: height * PT };
  for (const m of photo.marks) {
    const [disc, ring] = photoMarkContours([m]);
    draw(doc, [disc!], place, { fill: INK });
    if (ring) draw(doc, [ring], place, { fill: '#FFFFFF' });
    // Outside the marks' own paper, so that nothing dark touches a mark.
    doc
      .font('text')
      .fontSize(8)
      .fillColor(INK)
      .text(
        String(m.id),
        (m.x + (m.x > width / 2 ? -PHOTO_MARK - 6 : PHOTO_MARK + 2)) * PT,
        (height - m.y - 1.5) * PT,
        { lineBreak: false },
      );
  }
  // Crosses for the pointer, apart from the camera's marks: a line across a disc would hide it from the camera.
  for (const m of board?.marks ?? []) draw(doc, markContours(m), place, { stroke: INK, width: 0.3 });
  bar(doc, width / 2 - 50, height - 38, 100, '100 mm: print at 100 %, then measure this bar');
  doc
    .font('text')
    .fontSize(8)
    .text(
      plain(`Marks for ${input.name}, ${width} x ${height} mm. This edge towards the operator.`),
      (width / 2 - 50) * PT,
      (height - 27) * PT,
      {
        lineBreak: false,
      },
    );
  doc.end();
  return done;
};
