import { boxCorners, type Box, type Vec } from '../geometry';
import { maxYaw, turnedSize, type Pocket } from '../holding';
import type { Mm, Rad } from '../units';
import type { BudgetInput, SourceId } from './input';
import { nextPiece } from '../samples';
import { effectiveDof } from './combine';
import { seeded, studentScale } from './random';

/** One source made larger or smaller, to see what it does. */
export interface Scales {
  readonly id: SourceId | null;
  readonly factor: number;
}

type Open = Pick<Pocket, 'length' | 'width'>;

/** Simulates pieces; returns sorted displacements of the worst corner, mm. */
export const simulatePieces = (
  input: BudgetInput,
  count: number,
  scale: Scales = { id: null, factor: 1 },
): Float64Array => {
  const r = seeded(input.seed);
  const k = (id: SourceId): number => (scale.id === id ? scale.factor : 1);
  const corners = boxCorners(input.art);
  const { pocket, sizes, slots, marks } = input;
  const sigma = input.sigma * input.aimingGrowth;
  const out = new Float64Array(count);
  const round = pocket.yaw === null;
  // What a piece can be turned by: what its pocket leaves it, or the eye that lays it to its line.
  const free = pocket.yaw ?? pocket.byEye ?? 0;
  /** What the pocket leaves a piece of this size. */
  const yawOf = (l: Mm, w: Mm, open: Open = pocket): Rad => maxYaw(l, w, open.length, open.width, pocket.corner);
  const yawOfMean = yawOf(sizes.length.mean, sizes.width.mean);
  const perMark = sigma / Math.sqrt(marks.marks);
  const perTurn = sigma / Math.sqrt(marks.spread);
  const kFloat = k('float'),
    kYaw = k('yaw'),
    kSize = k('size'),
    kAim = k('aiming'),
    kPointer = k('pointer'),
    kReturn = k('return'),
    kOutline = input.outline * k('outline');
  const { laid } = input;
  const seen = input.seen?.length ? input.seen : null;
  const kSeen = k('outline');
  const [nextLength, nextWidth] = [nextPiece(sizes.length), nextPiece(sizes.width)];
  // Both spreads together are known better than each: one scale for both, by what their sum is worth.
  const sizesDof = effectiveDof([
    { u: nextLength, dof: sizes.length.dof },
    { u: round ? 0 : nextWidth, dof: sizes.width.dof },
  ]);
  const kEye = (laid?.eye ?? 0) * k('eye'),
    kCard = (laid?.outline.error ?? 0) * k('card'),
    kStops = (laid?.returns?.u ?? 0) * k('stops');
  const frame = laid?.returns?.seat.response ?? [];
  const { made } = input;
  const kerf = (made?.kerf ?? 0) * k('cut'),
    place = (made?.place ?? 0) * k('cut'),
    push = (made?.seating ?? 0) * k('seating'),
    drawn = (made?.line ?? 0) * k('line');
  const { axes } = input;
  const stretch = (axes?.scale ?? 0) * k('axes'),
    lean = (axes?.lean ?? 0) * k('axes');
  const overPiece = axes?.from === 'piece';
  const within = (a: Mm): Mm => (a > 0 ? a * (2 * r.uniform() - 1) : 0);
  const tries = laid?.returns?.dof ?? 0;
  // A hundred thousand pieces pass here: what does not change is taken out of the loop.
  const seat = (laid?.seat.points ?? []).map(({ at, normal, by }, p) => ({
    along: at.x * normal.x * kSize,
    across: at.y * normal.y * kSize,
    eye: by === 'line' ? kEye : 0,
    push: by === 'contact' ? push : 0,
    drawn: by === 'line' ? drawn : 0,
    ...laid!.seat.response[p]!,
  }));
  for (let i = 0; i < count; i += 1) {
    const few = studentScale(r, sizesDof);
    const l = sizes.length.mean + nextLength * few * r.normal();
    const w = round ? l : sizes.width.mean + nextWidth * few * r.normal();
    const at = Math.floor(r.uniform() * slots.length);
    const slot = slots[at]!;
    let tx = 0,
      ty = 0,
      psi = 0;
    if (input.lies === 'loose') {
      // Walls outward by so much, both alike by the kerf and each by itself.
      const wider = within(kerf);
      const [left, right, front, back] = [within(place), within(place), within(place), within(place)];
      const open = { length: pocket.length + wider + left + right, width: pocket.width + wider + front + back };
      // A smaller piece turns and floats further; its middle is the pocket's, whatever its size.
      const most = round ? free : Math.max(0, free + yawOf(l, w, open) - yawOfMean);
      psi = most * kYaw * (2 * r.uniform() - 1);
      const turned = round ? { length: l, width: w } : turnedSize(l, w, psi, pocket.corner);
      tx = Math.max(0, (open.length - turned.length) / 2) * (2 * r.uniform() - 1) * kFloat + (right - left) / 2;
      ty = Math.max(0, (open.width - turned.width) / 2) * (2 * r.uniform() - 1) * kFloat + (back - front) / 2;
    } else if (laid) {
      const longer = l / sizes.length.mean - 1;
      const wider = w / sizes.width.mean - 1;
      for (let p = 0; p < seat.length; p += 1) {
        const { along, across, eye, push, drawn, x, y, turn } = seat[p]!;
        let error = along * longer + across * wider;
        if (kCard > 0) error += kCard * (2 * r.uniform() - 1);
        if (eye > 0) error += eye * (2 * r.uniform() - 1);
        error += within(place) + within(push) + within(drawn);
        tx += x * error;
        ty += y * error;
        psi += turn * error;
      }
    } else {
      psi = round ? free * kYaw * (2 * r.uniform() - 1) : 0;
      const inward = within(kerf) / 2;
      tx = ((l - sizes.length.mean) / 2) * kSize + inward + within(place) + within(push);
      ty = ((w - sizes.width.mean) / 2) * kSize + inward + within(place) + within(push);
    }
    if (kOutline > 0) {
      tx += kOutline * r.normal();
      ty += kOutline * r.normal();
    }
    if (seen && kSeen > 0) {
      const { shift, turn, foot = 0 } = seen[at] ?? seen[0]!;
      const aside = (): number => (foot > 0 ? foot * (2 * r.uniform() - 1) : 0);
      tx += kSeen * (shift * r.normal() + aside());
      ty += kSeen * (shift * r.normal() + aside());
      psi += kSeen * turn * r.normal();
    }
    const pointer =
      input.pointer.status === 'unmeasured'
        ? {
            x: input.pointer.uncertainty * Math.sqrt(3) * (2 * r.uniform() - 1),
            y: input.pointer.uncertainty * Math.sqrt(3) * (2 * r.uniform() - 1),
          }
        : { x: input.pointer.uncertainty * r.normal(), y: input.pointer.uncertainty * r.normal() };
    const stops = kStops > 0 && tries > 0 ? kStops * studentScale(r, tries) : kStops;
    let fx = 0,
      fy = 0,
      fTurn = 0;
    if (stops > 0)
      for (let n = 0; n < frame.length; n += 1) {
        const { x, y, turn } = frame[n]!;
        const error = stops * r.normal();
        fx += x * error;
        fy += y * error;
        fTurn += turn * error;
      }
    const sx =
      perMark * r.normal() * kAim +
      pointer.x * kPointer +
      input.repeatability * (2 * r.uniform() - 1) * kReturn +
      (fx - fTurn * marks.centre.y);
    const sy =
      perMark * r.normal() * kAim +
      pointer.y * kPointer +
      input.repeatability * (2 * r.uniform() - 1) * kReturn +
      (fy + fTurn * marks.centre.x);
    const beside = (input.second ?? 0) * k('second');
    const [besideX, besideY] = beside > 0 ? [beside * r.normal(), beside * r.normal()] : [0, 0];
    const [alongX, alongY, leant] = [within(stretch), within(stretch), within(lean) / 2];
    const turn = perTurn * r.normal() * kAim + input.leftoverAngle * k('angle') + fTurn;
    const cos = Math.cos(slot.angle),
      sin = Math.sin(slot.angle);
    let worst = 0;
    for (const c of corners) {
      // Displacement of this corner: the piece's in its pocket, then the burn's on the bed.
      const px = tx - psi * c.y,
        py = ty + psi * c.x;
      const bx = slot.centre.x + c.x * cos - c.y * sin - marks.centre.x;
      const by = slot.centre.y + c.x * sin + c.y * cos - marks.centre.y;
      // What the axes leave grows from the marks, or over the piece alone.
      const ax = overPiece ? bx + marks.centre.x - slot.centre.x : bx;
      const ay = overPiece ? by + marks.centre.y - slot.centre.y : by;
      const dx = sx + besideX - turn * by + alongX * ax + leant * ay,
        dy = sy + besideY + turn * bx + alongY * ay + leant * ax;
      const ex = dx * cos + dy * sin - px;
      const ey = -dx * sin + dy * cos - py;
      const d = ex * ex + ey * ey;
      if (d > worst) worst = d;
    }
    out[i] = Math.sqrt(worst);
  }
  return out.sort();
};

/** Displacement of a piece's worst corner from measured offsets, mm. */
export const worstCorner = (art: Box, dx: Mm, dy: Mm, yaw: Rad): Mm =>
  Math.max(...boxCorners(art).map((c: Vec) => Math.hypot(dx - yaw * c.y, dy + yaw * c.x)));
