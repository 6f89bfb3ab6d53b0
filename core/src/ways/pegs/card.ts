import { offsetContours } from '../../geometry';
import { blankOutline } from '../../holding';
import { ok, type Result } from '../../result';
import { cutOf, missing, onItsOwn, problemOr, type BatchInput, type BatchReckoning, type Part } from '../../setup';

/** The trial in card: as large as the blank itself, so the cut runs half a kerf outside. */
export const cardPart = (input: BatchInput, r: BatchReckoning): Result<Part> =>
  r.own.lines
    ? ok(onItsOwn(cutOf('card', offsetContours(blankOutline(input.blank, r.sizes), input.machine.kerf / 2))))
    : problemOr(r, missing('Choose witness lines', 'hold.method'));
