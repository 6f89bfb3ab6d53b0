import type { api, SectionName } from '@bistre/contract';

const SECTIONS: Readonly<Record<SectionName, string>> = {
  held: 'how it is held',
  beside: 'what stands beside it',
  lettering: 'lettering',
  back: 'lettering of the back',
  faces: 'what goes where',
  contents: 'art in the zones',
  place: 'how marks are used',
  burn: 'order of burning',
  looks: 'looks of pieces',
  close: 'notes',
};

const CALLS: { readonly [C in keyof typeof api]?: string } = {
  takeReading: 'reading of mark',
  takeReadings: 'table of readings',
  dropReading: 'reading taken out',
  layAnew: 'laid anew',
  correct: 'burn moved',
  addMachineChange: 'change of a machine',
  dropMachineChange: 'change of a machine taken out',
  moveBatch: 'another machine',
  askApproval: 'waiting for the customer',
  takeApproval: 'customer’s approval',
  tick: 'tick',
  judgePieces: 'verdict',
  startLoad: 'next load',
  takeRing: 'reading of a ring',
  takeFeed: 'reading of a feed',
  saveRoster: 'roster',
  chooseRecipe: 'recipe',
  chooseDrive: 'drive',
  setOnMachine: 'number on the machine',
  addSample: 'piece measured',
  dropSample: 'measuring taken out',
  createBatch: 'new batch',
  againBatch: 'the same again',
  createArtwork: 'new artwork',
  saveArtwork: 'artwork',
  reviseArtwork: 'new file of an artwork',
  createBlank: 'new blank',
  saveBlank: 'blank',
  createMachine: 'new machine',
  saveMachine: 'machine',
  createRecipe: 'new recipe',
  saveRecipe: 'recipe',
  createTrial: 'new trial',
  saveTrial: 'trial',
  burnedTrial: 'trial burned',
  simulateTrial: 'trial burned on the simulated machine',
  scoreCell: 'grade of a cell',
  dropScore: 'grade taken out',
  proveRecipe: 'recipe of a cell',
  createDrive: 'new drive',
  saveDrive: 'drive',
  createFeeder: 'new feeder',
  saveFeeder: 'feeder',
  createStep: 'new step',
  saveStep: 'step',
  keepOffcuts: 'offcuts kept',
  setAway: 'put away or brought back',
  undoShelf: 'taking back',
  wroteFile: 'file written',
};

/** What a write does, in words for the header. */
export const wordsOf = (call: string, body: unknown): string => {
  const { section, mark, pieces, name } = (body ?? {}) as {
    section?: SectionName;
    mark?: number;
    pieces?: unknown[];
    name?: string;
  };
  if (section) return SECTIONS[section];
  const words = CALLS[call as keyof typeof api] ?? 'change';
  if (call === 'takeReading' && mark) return `${words} ${mark}`;
  if (name && /^(create|save)[A-Z]/.test(call) && call !== 'saveRoster') return `${words} ${name}`;
  return call === 'judgePieces' && pieces && pieces.length > 1 ? `${pieces.length} verdicts` : words;
};

/** Several writes together: how many, and of what. */
export const manyWords = (all: readonly { readonly words: string }[]): string => {
  const count = new Map<string, number>();
  for (const { words } of all) count.set(words, (count.get(words) ?? 0) + 1);
  return [...count].map(([words, n]) => (n > 1 ? `${n} × ${words}` : words)).join(', ');
};
