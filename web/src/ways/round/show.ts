import type { BatchDocument } from '@bistre/contract';
import { artOnBlank, screenPath, unrolledPasses, type BatchReckoning } from '@bistre/core';
import type { RoundShown } from '../../data/shown';
import { FLAT_SHOW, type Show } from '../flat/show';

const strokesOf = (r: BatchReckoning): Float32Array => {
  const { filled, drawn } = artOnBlank(r);
  const out: number[] = [];
  const add = (line: readonly { angle: number; along: number }[], closed: boolean): void => {
    for (let i = 0; i < line.length - (closed ? 0 : 1); i += 1) {
      const a = line[i]!;
      const b = line[(i + 1) % line.length]!;
      out.push(a.angle, a.along, b.angle, b.along);
    }
  };
  for (const line of filled) add(line, true);
  for (const line of drawn) add(line, false);
  return Float32Array.from(out);
};

let lastWrap: { readonly key: string; readonly shown: Pick<RoundShown, 'unrolled' | 'strokes'> } | null = null;

const roundShown = (r: BatchReckoning, batch: BatchDocument): RoundShown | undefined => {
  const { round } = r.own;
  if (!round) return undefined;
  const key = JSON.stringify([
    round.shape,
    batch.setup.held,
    batch.setup.faces,
    // An artwork that was just chosen comes with the server's answer.
    batch.artworks.map(({ id, revision, roles, scale }) => [id, revision, roles, scale]),
    batch.setup.lettering,
    batch.setup.contents,
    batch.serials.map(({ contentId, numbers }) => [contentId, numbers[(r.onTheBoard[0]?.ordinal ?? 1) - 1]]),
    batch.blank.spec.zones,
    r.onTheBoard,
    batch.roster[(r.onTheBoard[0]?.ordinal ?? 1) - 1],
  ]);
  if (lastWrap?.key !== key) {
    const passes = unrolledPasses(r, 'meet');
    const path = (kind: 'fill' | 'line'): string =>
      passes
        .filter((p) => p.kind === kind && p.name !== 'picture-edge')
        .flatMap((p) => p.contours.map((c) => screenPath(c)))
        .join('');
    lastWrap = { key, shown: { unrolled: { fill: path('fill'), line: path('line') }, strokes: strokesOf(r) } };
  }
  return {
    ...round,
    faces: round.faces.map(({ zone, places, around, along, half, picture, choice, art }) => ({
      zone,
      places,
      around,
      along,
      half,
      picture,
      reads: choice.reads,
      size: art?.size ?? null,
    })),
    ...lastWrap.shown,
  };
};

/** A round blank crosses as unrolled paths and strokes; nothing of it lies flat. */
export const ROUND_SHOW: Show = {
  ...FLAT_SHOW,
  drawn: () => [],
  own: (r, batch) => ({ round: roundShown(r, batch) }),
  outlined: () => false,
};
