import {
  asymmetryProblem,
  blankOutline,
  loosePocket,
  madeOf,
  panelBoard,
  panelCut,
  plainPlace,
  turnedBoard,
} from '../../holding';
import { plannedSheets } from '../../runs';
import {
  backFace,
  frontFace,
  heldAs,
  TURNED,
  type BatchInput,
  type BatchReckoning,
  type ReckonOptions,
} from '../../setup';
import { begin, follow, NO_LABELS, wholePiece } from '../flat';

/** Everything that follows for pieces that are engraved on both faces and cut out of one sheet. */
export const panelBatch = (input: BatchInput, options: ReckonOptions): BatchReckoning => {
  const turned = input.ticks.includes(TURNED);
  const panel = heldAs(input, 'panel').choice;
  const begun = begin(input, options, true, (s) => (turned ? backFace(input, s, panel.reads) : frontFace(input)));
  const { sizes, labels, face } = begun;
  const { kerf } = input.machine;
  const inHoles = panel.carry === 'holes';
  // A piece that turns in its own hole has a kerf to move in.
  const pocket = inHoles ? loosePocket(input.blank, sizes, { school: 'own', total: kerf }) : plainPlace(sizes);
  const { blank, machine } = input;
  const revision = input.fixture?.revision ?? 1;
  const made = labels ? panelBoard({ blank, sizes, pocket, machine, revision }, panel) : NO_LABELS;
  const first = made.ok ? made.value : null;
  const back = face.side === 'back';
  const board = first && back ? turnedBoard(first, panel) : first;
  const turns = inHoles
    ? asymmetryProblem(blankOutline(input.blank, sizes), first?.slots[0]?.angle ?? 0, panel.turn, kerf)
    : null;
  return follow(
    input,
    options,
    begun,
    {
      wanted: pocket,
      pocket,
      artBox: wholePiece(input),
      made,
      board,
      // On its first side it has no marks yet: that file makes them.
      aimed: back ? board : null,
      lies: inHoles ? 'loose' : 'drawn',
      rests: 'alone',
      suits: { to: 'size' },
      marksAt: 0,
      turns: false,
    },
    {
      firstAlone: false,
      planned: plannedSheets,
      // The first side makes the marks; in their holes, pieces stay where they were cut.
      placesItself: !back || inHoles,
      budget: () =>
        inHoles
          ? {
              // In its own hole a piece is where the machine cut it: nothing is aimed at.
              sigma: 0,
              pointer: { status: 'measured', uncertainty: 0 },
              // The same cut makes hole and piece: only its width is not known.
              made: { ...madeOf(machine), place: 0 },
              axes: null,
            }
          : {},
      last: () => (turns ? [{ station: 'hold', message: turns.message }] : []),
      also: { cutOut: { lines: panelCut(face.blank, sizes, kerf), when: 'last' } },
    },
  );
};
