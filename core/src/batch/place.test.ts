import { inWay } from '../test-held';
import { bedToFile } from '../burn';
import { apply, compose, rigid, type Transform } from '../geometry';
import { loadGcode } from './files';
import { reckonBatch } from './reckon';
import type { BatchInput } from '../setup';
import { testAlphabets } from '../test-alphabets';
import { testBatch } from '../test-batch';

const options = {
  now: new Date('2026-11-20T00:00:00Z'),
  alphabets: testAlphabets,
  labels: 'readability',
  simulatedPieces: 500,
};
const fresh = testBatch({ firstApproved: true });
const board = reckonBatch(fresh, options).board!;

/** Readings of marks, in the order in which a person took them for marks 1, 2, …: `order[i]` is the mark really aimed at. */
const withReadings = (
  lies: Transform,
  order: readonly number[],
  off: { mark: number; x: number } | null = null,
): BatchInput => {
  const toFile = bedToFile(fresh.machine);
  const { pointerOffset } = fresh.machine;
  return {
    ...fresh,
    readings: order.map((aimed, i) => {
      const at = apply(toFile, apply(lies, board.marks[aimed - 1]!.at));
      return {
        id: `r${i}`,
        mark: i + 1,
        x: at.x - (pointerOffset?.x ?? 0) + (off?.mark === i + 1 ? off.x : 0),
        y: at.y + (pointerOffset ? -pointerOffset.y : 0),
        source: 'typed',
        at: '2026-11-20T00:00:00Z',
        by: 'Imre',
        purpose: 'place',
      };
    }),
  };
};
const lies = rigid(0.03, 200, 100);

describe('what readings of a board say', () => {
  it('is nothing bad when all is well', () => {
    const { place } = reckonBatch(withReadings(lies, [1, 2, 3]), options);
    expect(place).toMatchObject({ problem: null, question: null, gain: null });
    expect(place.consistency!.verdict).toBe('agrees');
  });
  it('names two marks that were read in each other’s place, and writes no file', () => {
    const input = withReadings(lies, [1, 3, 2]);
    const r = reckonBatch(input, options);
    expect(r.place.consistency!.message).toMatch(/Marks 2 and 3 were read in each other’s place/);
    expect(loadGcode(input, r, 'x')).toMatchObject({ ok: false, problem: { code: 'marks-disagree' } });
  });
  it('asks about a board turned far by two marks only, and a third answers', () => {
    const exchanged = reckonBatch(withReadings(lies, [2, 1]), options);
    expect(exchanged.place.question!.message).toMatch(/turned by -?1[78]\d°.*read a third mark/);
    expect(loadGcode(withReadings(lies, [2, 1]), exchanged, 'x')).toMatchObject({
      ok: false,
      problem: { code: 'turned-far' },
    });
    // A board that really lies on its other side agrees with its third mark.
    const round = compose(rigid(Math.PI, 600, 450), rigid(0, 0, 0));
    expect(reckonBatch(withReadings(round, [1, 2, 3]), options).place).toMatchObject({ question: null, problem: null });
  });
  it('does not believe a reading off the bed, and says where to look', () => {
    const { place } = reckonBatch(withReadings(lies, [1, 2, 3], { mark: 2, x: 2540 }), options);
    expect(place.placement).toBeNull();
    expect(place.problem!.message).toMatch(/Mark 2 was read off the bed of 900 × 600 mm.*zero/);
    expect(place.problem!.field).toBe('place.reading.2');
  });
  it('believes no reading from before the work was found to have moved, until all are read again', () => {
    const start = withReadings(lies, [1, 2, 3]);
    const { readings } = start;
    const asked = (more: BatchInput['readings']): string | null => {
      const input = { ...start, readings: more };
      const { place } = reckonBatch(input, options);
      const file = loadGcode(input, reckonBatch(input, options), 'x');
      expect(!file.ok && file.problem.code === 'work-moved').toBe(place.question?.code === 'work-moved');
      return place.question?.message ?? null;
    };
    const later = (mark: number, by: number, purpose: 'place' | 'reread'): BatchInput['readings'][number] => ({ ...readings[mark - 1]!, id: `${mark}.${purpose}.${by}`, x: readings[mark - 1]!.x + by, purpose, at: '2026-11-20T01:00:00Z' }); // prettier-ignore
    // A jog step is 0.1 mm, and 2√2 of what aiming may miss a little more.
    expect(asked([...readings, later(1, 0.08, 'reread')])).toBeNull();
    const moved = [...readings, later(1, 3, 'reread')];
    expect(asked(moved)).toBe('Mark 1 was found 3.00 mm from where it was read: the work or the head has moved since. Read marks 1, 2 and 3 again.'); // prettier-ignore
    // Read again where it lies now, mark 1 alone would be mixed with two of before.
    expect(asked([...moved, later(1, 3, 'place')])).toContain('Read marks 2 and 3 again.');
    expect(asked([...moved, later(1, 3, 'place'), later(2, 3, 'place')])).toContain('Read mark 3 again.');
    expect(asked([...moved, later(1, 3, 'place'), later(2, 3, 'place'), later(3, 3, 'place')])).toBeNull();
    // A slip of the hand: read once more, it is where it was.
    expect(asked([...moved, later(1, 0.02, 'reread')])).toBeNull();
  });
  it('says what the unread mark would gain', () => {
    const { gain } = reckonBatch(withReadings(lies, [1, 2]), options).place;
    expect(gain!.mark).toBe(3);
    expect(gain!.then).toBeLessThan(gain!.now);
  });
});

describe('a piece with marks of its own', () => {
  const look = { kind: 'ring', size: 4 } as const;
  const read = (marks: readonly { x: number; y: number }[], stretch = 1, stretches = false): BatchInput => {
    const toFile = bedToFile(fresh.machine);
    const { pointerOffset } = fresh.machine;
    return {
      ...fresh,
      setup: inWay(fresh, 'marked', { own: { marks: marks.map((m) => ({ ...m, look })), stretches } }).setup,
      readings: marks.map((m, i) => {
        const at = apply(toFile, apply(lies, { x: m.x * stretch, y: m.y }));
        return {
          id: `r${i}`,
          mark: i + 1,
          x: at.x - (pointerOffset?.x ?? 0),
          y: at.y - (pointerOffset?.y ?? 0),
          source: 'typed',
          at: '2026-11-20T00:00:00Z',
          by: 'Imre',
          purpose: 'place',
        };
      }),
    };
  };
  const four = [
    { x: 4, y: 4 },
    { x: 56, y: 26 },
    { x: 56, y: 4 },
    { x: 4, y: 26 },
  ];

  it('is placed by them, its art turned with it', () => {
    const r = reckonBatch(read(four.slice(0, 3)), options);
    expect(r.placed).toBe(true);
    expect(r.place.consistency!.verdict).toBe('agrees');
    const corner = apply(r.boardToBed, { x: 4, y: 4 });
    const meant = apply(lies, { x: 4, y: 4 });
    expect(Math.hypot(corner.x - meant.x, corner.y - meant.y)).toBeLessThan(1e-6);
    expect(r.onTheBoard).toHaveLength(1);
  });

  it('asks for marks farther apart than 20 mm, and burns nothing by nearer ones', () => {
    const near = read([
      { x: 4, y: 4 },
      { x: 16, y: 8 },
    ]);
    const r = reckonBatch(near, options);
    expect(r.place.question!.message).toMatch(/only 12\.6 mm apart.*at least 20 mm apart/);
    expect(loadGcode(near, r, 'x')).toMatchObject({ ok: false, problem: { code: 'marks-near' } });
  });

  it('is never scaled when it is rigid, and is when it may be stretched', () => {
    const rigidPiece = reckonBatch(read(four, 1.01), options);
    expect(rigidPiece.place.consistency!.verdict).toBe('disagrees');
    expect(rigidPiece.place.choice).toBeNull();
    const cloth = reckonBatch(read(four, 1.01, true), options);
    expect(cloth.place.choice!.proposed.fit.model).toBe('two-scales');
    expect(cloth.place.placement!.model).toBe('two-scales');
  });
});
