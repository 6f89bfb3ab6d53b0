import { batchProgram, benchSteps, reckonBatch, stationStates } from './batch';
import { apply, boxOf, type Box, type Transform, type Vec } from './geometry';
import { readGcode } from './output';
import type { BatchInput, BatchReckoning, Step } from './setup';
import type { ProgramName } from './ways';
import { testAlphabets } from './test-alphabets';
import { savedAs } from './test-held';

/** How tests reckon: on a day, in the test alphabets, with few simulated pieces. */
export const OPTIONS = { now: new Date('2026-11-20T00:00:00Z'), alphabets: testAlphabets, labels: 'readability', simulatedPieces: 200 }; // prettier-ignore
export const reckon = (input: BatchInput): BatchReckoning => reckonBatch(input, OPTIONS);

/** A batch whose blanks are as large as they are drawn: nothing was measured. */
export const exactly = (input: BatchInput): BatchInput => ({ ...input, blank: { ...input.blank, samples: { length: [], width: [], thickness: [] } } }); // prettier-ignore

export const stepOf = (input: BatchInput, id: string): Step | undefined => benchSteps(input, reckon(input)).find((s) => s.id === id); // prettier-ignore
/** All that is remarked on, a line each. */
export const toldOf = (input: BatchInput): string => reckon(input).warnings.map((w) => w.message).join('\n'); // prettier-ignore
/** What a station waits for; '' where it is proved. */
export const waitsOf = (input: BatchInput, id: string): string => stationStates(input, reckon(input)).find((s) => s.id === id)!.waits; // prettier-ignore

/** What lies on the bed by `lie`, every mark of it read there in the numbers of the machine (zero at the back left, y towards the operator). */
export const readAt = (input: BatchInput, lie: Transform): BatchInput => {
  const read =
    (purpose: 'place' | 'reread') =>
    ({ id, at }: { id: number; at: { x: number; y: number } }): BatchInput['readings'][number] => {
      // prettier-ignore
      const p = apply(lie, at);
      return { id: `${purpose}-${id}`, mark: id, x: p.x, y: input.machine.bed.height - p.y, source: 'typed', at: '2026-11-20T08:00:00.000Z', by: 'Odile', purpose }; // prettier-ignore
    };
  const { marks } = reckon(input).board!;
  return { ...input, readings: [...marks.map(read('place')), read('reread')(marks[0]!)] };
};

/** With its fixture saved on the Shelf as it is reckoned. */
export const saved = (input: BatchInput): BatchInput => ({ ...input, fixture: savedAs(input, reckon(input).basis) });

/** A G-code file as text. */
export const programOf = (input: BatchInput, file: ProgramName = 'load'): string => {
  const made = batchProgram(input, reckon(input), file);
  if (!made.ok) throw new Error(made.problem.message);
  return typeof made.value === 'string' ? made.value : [...made.value].join('');
};

/** Where a file burns: the box of all moves with the beam on, from both ends, in the file's own axes, mm. */
export const burnedBox = (text: string): Box => {
  const read = readGcode(text, 1000);
  if (!read.ok) throw new Error(read.problem.message);
  const { moves } = read.value;
  const burned: Vec[] = [];
  let at = { x: 0, y: 0 };
  for (let i = 0; i < moves.count; i += 1) {
    const to = { x: moves.x[i]!, y: moves.y[i]! };
    if (moves.power[i]! > 0) burned.push(at, to);
    at = to;
  }
  return boxOf(burned);
};
