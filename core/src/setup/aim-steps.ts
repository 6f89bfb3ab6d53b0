import type { BatchInput } from './input';
import type { BatchReckoning } from './reckoned';
import type { Step } from './step';

/** Focusing, once what is engraved lies there and before anything is aimed at: the dot moves with the height. */
export const focusStep = (station: Step['station'], on: string, detail: string): Step => ({
  id: `${station}.focus`,
  station,
  part: 'do',
  title: `Focus on ${on}`,
  detail,
});

/** Aiming at one mark. */
export const aimStep = (input: BatchInput, mark: number, check: boolean, done: boolean): Step => {
  const [coarse, fine, finest] = input.machine.jogSteps;
  return {
    id: `place.mark-${mark}`,
    station: 'place',
    part: check ? 'check' : 'do',
    title: check ? `Check with mark ${mark}` : `Aim at mark ${mark}`,
    detail: `Step ${coarse}, then ${fine}, last approach ${finest} mm. ${input.machine.pointerOffset ? 'The pointer offset is taken off.' : 'The pointer offset is unmeasured: ± 0.3 mm is carried.'}`,
    takes: { kind: 'reading', mark, purpose: 'place' },
    done,
  };
};

/** Aiming at every mark that the board or sheet carries. */
export const aimSteps = (input: BatchInput, r: BatchReckoning): Step[] =>
  (r.board?.marks ?? []).map((m) =>
    aimStep(
      input,
      m.id,
      m.role === 'check',
      r.place.pairs.some((p) => p.id === m.id),
    ),
  );

export const rereadStep = (r: BatchReckoning): Step => ({
  id: 'place.reread',
  station: 'place',
  part: 'check',
  title: 'Read mark 1 again',
  detail: `It must come back within ${Math.max(0.1, 2 * Math.SQRT2 * r.place.sigma).toFixed(2)} mm.`,
  takes: { kind: 'reading', mark: 1, purpose: 'reread' },
  done: r.place.rereadOk === true,
});
