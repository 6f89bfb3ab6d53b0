import {
  heldAs,
  inHand,
  apply,
  benchSteps,
  bedToFile,
  counted,
  diameterWords,
  flatOutline,
  roundLength,
  svgPath,
  unrolledPasses,
  type BatchInput,
  type BatchReckoning,
  type Board,
  mountedInWords,
  type Pass,
  type RoundReckoning,
  type Transform,
  type WorkedLine,
} from '@bistre/core';

import { pageCode } from './code';
import { bar, LOGWOOD, draw, heading, INK, PAGE, plain, PT, say, SOFT, start, workings, type Doc } from './paper';

/** What is mounted, to scale, with its marks and where they are for the machine. */
const mountBoard = (doc: Doc, input: BatchInput, r: BatchReckoning, board: Board): void => {
  const move = r.heights.bedMove;
  doc.font('text bold').fontSize(13);
  if (move !== null)
    doc.text(`Bed ${Math.abs(move).toFixed(2)} mm ${move >= 0 ? 'down' : 'up'} after focusing on the board.`);
  doc.font('text').fontSize(9.5);
  const width = PAGE.width - 2 * PAGE.margin;
  const scale = Math.min(width / board.width, 85 / board.height);
  const top = doc.y / PT + 3;
  const place: Transform = {
    a: scale * PT,
    b: 0,
    c: 0,
    d: -scale * PT,
    e: PAGE.margin * PT,
    f: (top + board.height * scale) * PT,
  };
  for (const pass of board.passes) {
    draw(
      doc,
      pass.contours,
      place,
      pass.kind === 'cut' ? { stroke: LOGWOOD } : pass.kind === 'fill' ? { fill: INK } : { stroke: INK, width: 0.3 },
    );
  }
  for (const m of board.marks) {
    const p = apply(place, m.at);
    doc
      .font('text bold')
      .fontSize(8)
      .text(String(m.id), p.x + 6, p.y - 12, { lineBreak: false });
  }
  doc.font('text').fontSize(9.5);
  doc.y = (top + board.height * scale + 4) * PT;
  const bars = 100;
  bar(doc, PAGE.margin, doc.y / PT, bars * scale, `${bars} mm, drawn 1 : ${(1 / scale).toFixed(2)}`);
  doc.y += 8 * PT;
  doc.x = PAGE.margin * PT;
  if (board.marks.length === 0) return;
  heading(doc, 'Marks');
  const toFile = bedToFile(input.machine);
  for (const m of board.marks) {
    const at = apply(toFile, apply(r.boardToBed, m.at));
    doc.text(
      `Mark ${m.id} (${m.role}): ${m.at.x.toFixed(2)}, ${m.at.y.toFixed(2)} mm on it; on the machine ${at.x.toFixed(2)}, ${at.y.toFixed(2)} mm${r.placed ? '' : ' where it is meant to lie'}.`,
    );
  }
};

const driveWorking = ({ on }: RoundReckoning): readonly WorkedLine[] =>
  on
    ? [
        ...on.seat.working,
        ...on.control.working,
        ...on.rings.working,
        ...on.throwing.working,
        ...on.taper.working,
        ...on.heights.working,
      ]
    : [];

/** What a round blank's drive is told, in the order in which it is set. */
const mountDrive = (doc: Doc, input: BatchInput, r: BatchReckoning, round: RoundReckoning): void => {
  const { on, shape } = round;
  if (!on) {
    doc.text(round.problem?.message ?? 'No drive chosen: the blank lies still in a cradle.');
    return;
  }
  const { control, throwing, level, seat } = on;
  doc.text(
    plain(
      `${on.drive.name}, ${on.standing.name}, motor to the ${on.drive.motorSide}. Rim to the ${heldAs(input, 'drive').choice.rimFaces}. Blank ${roundLength(shape).toFixed(0)} mm long, contact circle ${seat.contactDiameter.toFixed(2)} mm, ${seat.contactAt.toFixed(0)} mm from the rim.`,
    ),
  );
  doc.font('text bold').fontSize(13);
  if (control.value !== null)
    doc.text(plain(`${control.where}: ${control.value} (was ${control.was}).${diameterWords(control)}`));
  if (throwing.recommended < on.drive.axisAcceleration - 0.5)
    doc.text(
      plain(`Axis acceleration at most ${throwing.recommended.toFixed(0)} mm/s² (was ${on.drive.axisAcceleration})`),
    );
  if (level.raise)
    doc.text(plain(`Raise the ${level.raise} by ${level.lift.toFixed(1)} mm over its length, engraved line level`));
  if (on.interval)
    doc.text(`Rows every ${on.interval.used.toFixed(5)} mm (${Math.round(on.interval.used / on.travel.step)} steps)`);
  doc.font('text').fontSize(9.5);
  // The blank laid flat, rim up, to a scale that its bar says.
  const side = flatOutline(shape, round.artFrom, round.artTo);
  const widest = 2 * Math.max(...side.map((p) => Math.abs(p.x)));
  const top = Math.max(...side.map((p) => p.y));
  const tall = top - Math.min(...side.map((p) => p.y));
  const scale = Math.min((PAGE.width - 2 * PAGE.margin) / widest, 80 / tall);
  const y = doc.y / PT + 4;
  const place: Transform = {
    a: scale * PT,
    b: 0,
    c: 0,
    d: -scale * PT,
    e: (PAGE.width / 2) * PT,
    f: (y + top * scale) * PT,
  };
  draw(doc, [{ closed: true, vertices: side }], place, { stroke: INK });
  // Art over ±180° goes on at the other side: it is drawn at both ends, and cut at the edge.
  doc.save();
  doc.path(svgPath({ closed: true, vertices: side }, place)).clip();
  for (const pass of unrolledPasses(r, 'meet'))
    draw(doc, pass.contours, place, pass.kind === 'fill' ? { fill: INK } : { stroke: INK, width: 0.3 });
  doc.restore();
  doc.y = (y + tall * scale + 4) * PT;
  bar(
    doc,
    PAGE.margin,
    doc.y / PT,
    100 * scale,
    `100 mm, drawn 1 : ${(1 / scale).toFixed(2)}; laid flat, rim up, 0° in the middle`,
  );
  doc.y += 8 * PT;
  doc.x = PAGE.margin * PT;
};

/** How large the code that opens the batch is printed, mm: a tablet reads it at arm’s length. */
const CODE = 21;

/** The setup sheet: what to mount, numbers with working, drawing, marks, steps, cautions, putbacks. */
export const setupSheet = (input: BatchInput, r: BatchReckoning, title: string, address = ''): Promise<Buffer> => {
  const { doc, done } = start(`${title}: setup sheet`);
  if (address) pageCode(doc, PAGE.width - PAGE.margin - CODE, 7, CODE, address, 'opens the batch');
  const { board } = r;
  const { round } = r.own;
  doc.font('text bold').fontSize(18).text(title);
  doc
    .font('text')
    .fontSize(10)
    .fillColor(SOFT)
    .text(
      plain(
        `${counted(input.quantity, 'piece')} and ${counted(input.spares, 'spare')} of ${input.blank.name}, on ${input.machine.name}. Tolerance ${input.tolerance.toFixed(2)} mm.`,
      ),
    )
    .fillColor(INK);
  heading(doc, 'Mount');
  if (!round) doc.text(plain(mountedInWords(input, r)));
  if (round) mountDrive(doc, input, r, round);
  else if (board) mountBoard(doc, input, r, board);
  heading(doc, 'Bench steps');
  const steps = benchSteps(input, r);
  for (const step of steps) {
    if (doc.y > (PAGE.height - 25) * PT) doc.addPage();
    const y = doc.y;
    doc
      .rect(PAGE.margin * PT, y + 1, 8, 8)
      .lineWidth(0.6)
      .strokeColor(INK)
      .stroke();
    // What is done already is ticked.
    if (step.done || input.ticks.includes(step.id))
      doc
        .moveTo(PAGE.margin * PT + 1.5, y + 5)
        .lineTo(PAGE.margin * PT + 3.5, y + 7.5)
        .lineTo(PAGE.margin * PT + 7, y + 2)
        .lineWidth(1.1)
        .stroke();
    doc.fontSize(9.5);
    say(doc, step.title, { bold: true, at: [(PAGE.margin + 5) * PT, y] });
    doc.fontSize(8.5);
    if (step.detail) say(doc, step.detail);
    const hand = inHand(step);
    if (hand.length > 0) say(doc, `At hand: ${hand.join(', ')}.`);
    doc.x = PAGE.margin * PT;
  }
  heading(doc, 'Cautions');
  // Of this job alone, in the order in which they come.
  const cautions = new Set(steps.flatMap((s) => s.caution ?? []));
  doc.fontSize(8.5);
  for (const caution of cautions) say(doc, caution);
  heading(doc, 'To put back');
  doc.text(
    input.putbacks.length === 0
      ? 'No machine setting was changed.'
      : input.putbacks
          .map((p) => plain(`${p.setting}: ${p.now} back to ${p.was}${p.restoredAt ? ' (done)' : ''}`))
          .join('\n'),
  );
  heading(doc, 'Numbers and their working');
  workings(doc, [
    ...(round
      ? [...round.diameter.working, ...round.tapeWorking, ...driveWorking(round)]
      : [...r.sizes.length.working, ...r.sizes.width.working, ...r.pocket.working, ...r.heights.working]),
    ...r.place.sigmaWorking,
    ...r.budget.working,
  ]);
  const pages = doc.bufferedPageRange();
  for (let i = 0; i < pages.count; i += 1) {
    doc.switchToPage(i);
    doc.page.margins.bottom = 0;
    doc
      .font('text')
      .fontSize(8)
      .fillColor(SOFT)
      .text(
        `${title} · page ${i + 1} of ${pages.count} · a person at the machine starts every burn`,
        PAGE.margin * PT,
        (PAGE.height - 10) * PT,
        { lineBreak: false },
      );
  }
  doc.end();
  return done;
};

/** A wrap template in true size on a page of its own size, with a bar of 100 mm to measure. */
export const templateSheet = (
  template: { readonly width: number; readonly height: number; readonly passes: readonly Pass[] },
  title: string,
): Promise<Buffer> => {
  const width = Math.max(template.width, 120);
  const { doc, done } = start(`${title}: wrap template`, [width * PT, (template.height + 30) * PT]);
  doc
    .font('text')
    .fontSize(9)
    .text(
      'Print at 100 %. The bar must be 100.0 mm. Rim up; cut along the line, wrap it round, the ends meet.',
      5 * PT,
      5 * PT,
      {
        width: (width - 10) * PT,
      },
    );
  bar(doc, 10, 17, 100, '100 mm');
  const place: Transform = { a: PT, b: 0, c: 0, d: -PT, e: 0, f: (template.height + 28) * PT };
  for (const pass of template.passes) draw(doc, pass.contours, place, { stroke: LOGWOOD, width: 0.35 });
  doc.end();
  return done;
};
