import { pictureDots } from '../../artwork';
import { Moves } from '../../burn';
import { compose, invert } from '../../geometry';
import type { Pause } from '../../output';
import { dotsOfFile, NO_PICTURES, type Pictures } from '../../picture';
import { fail, type Problem, type Result } from '../../result';
import {
  heldAs,
  type BatchInput,
  pieceMoves,
  segmentMoves,
  segmentPictures,
  bedProgram,
  NO_RECIPE,
  writtenMoves,
  writtenSegment,
  obstaclesOf,
  placedPieces,
  type BatchReckoning,
} from '../../setup';

/** A comment of a strip's file before each feed; readers of the file split it there. */
export const FEED_ON = 'feed on';

/**
 * What one file for the whole strip waits for: a feeder that takes a word of a file, stops that are not aimed at one by
 * one, an approved first piece.
 */
export const stripNeeds = (input: BatchInput, r: BatchReckoning): (Problem | null)[] => {
  const { feed, long } = r.own;
  const need = (there: boolean, code: string, message: string, field: string): Problem | null =>
    there ? null : { code, message, field };
  if (!feed?.feeder || feed.stops.length === 0)
    return [need(false, 'no-strip', feed?.problem?.message ?? 'This batch is not on a feeder.', 'feed')];
  const { aimEvery } = feed;
  return [
    need(feed.feeder.word !== null, 'no-feed-word', `${feed.feeder.name} takes no word of a file: feed it by hand, stop by stop.`, 'feed'), // prettier-ignore
    need(
      aimEvery === 0,
      'aimed-between',
      `The strip is aimed at every ${aimEvery === 1 ? 'stop' : `${aimEvery} stops`}: one file cannot wait for that. Aim once only, if the budget allows it.`,
      'feed',
    ),
    need(r.placed, 'not-aimed', 'Aim at the strip first.', 'feed'),
    need(long !== null || input.firstApproved, 'not-approved', 'The first piece is not approved yet; the rest is held until then.', 'run'), // prettier-ignore
    need(r.run.openLoad !== null || long !== null, 'no-load', 'Take the next stop at the Run station first; the file begins there.', 'run'), // prettier-ignore
  ];
};

/** One file for every stop of the strip that is left, with the feeder's own word between them. */
export const stripGcode = (
  input: BatchInput,
  r: BatchReckoning,
  title: string,
  pictures: Pictures = NO_PICTURES,
): Result<Generator<string>> => {
  const { feed } = r.own;
  if (!feed?.feeder) return fail('no-strip', 'This batch is not on a feeder.', 'feed');
  const { word, settle, speed } = feed.feeder;
  if (!r.face.recipe) return NO_RECIPE;
  const here = feed.meant[feed.current - 1]!;
  const waiting = [...r.run.waiting];
  const slots = r.board?.slots ?? [];
  const moves = new Moves();
  const lists: Iterable<Moves | Pause>[] = [];
  const { interval } = r.face.recipe.engrave;
  let dots = 0;
  let fedSoFar = 0;
  for (const stop of feed.stops.slice(feed.current - 1)) {
    const first = stop.index === feed.current;
    const on = first
      ? r.onTheBoard
      : r.own.long
        ? r.onTheBoard
        : slots.slice(stop.first, stop.first + stop.count).flatMap((slot) => {
            const ordinal = waiting.shift();
            return ordinal === undefined ? [] : [{ slot, ordinal }];
          });
    if (!first && on.length === 0) break;
    const there: BatchReckoning = {
      ...r,
      onTheBoard: on,
      boardToBed: compose(feed.meant[stop.index - 1]!, invert(here), r.boardToBed),
      own: { ...r.own, long: r.own.long && { ...r.own.long, current: stop.index } },
    };
    if (!first) {
      fedSoFar += stop.command;
      const lines = [
        `(${FEED_ON} ${stop.command.toFixed(3)} mm to stop ${stop.index})`,
        `G0 ${word}${(Math.round(fedSoFar * 1000) / 1000).toFixed(3)}`,
        `G4 P${settle.toFixed(2)}`,
      ];
      lists.push([{ lines }]);
    }
    const pieces = placedPieces(there, on);
    const { long } = there.own;
    const made = long ? segmentMoves(input, there, long) : pieceMoves(input, there, pieces, 'engrave');
    if (!made.ok) return made;
    const written = long
      ? writtenSegment(input, there, long, pictures)
      : writtenMoves(input, there, pieces, 'engrave', pictures);
    if (!written.ok) return written;
    dots += pictureDots(long ? segmentPictures(long) : pieces, there.boardToBed, interval);
    const few = dotsOfFile(dots, interval, ', or feed it stop by stop');
    if (!few.ok) return few;
    moves.append(made.value);
    lists.push(written.value ?? [made.value]);
  }
  return bedProgram(input, moves, {
    title,
    mend: { words: 'Lay the strip further in, or leave a wider margin at its edges.', field: 'feed' },
    around: obstaclesOf(r),
    notes: [
      `feeder ${feed.feeder.name}, ${word} in mm, from stop ${feed.current} of ${feed.stops.length}, strip ${feed.strip}`,
      `strip ${heldAs(input, 'feed').choice.name}, rapid feed at most ${speed} mm/s as the feeder is set`,
      `recipe ${r.face.recipe.name}`,
    ],
    before: [`G92 ${word}0`],
    written: (function* () {
      for (const list of lists) yield* list;
    })(),
  });
};
