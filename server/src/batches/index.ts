export { loadBatch, loadBlank, loadDrive, loadFeeder, loadMachine, loadRecipe } from './load';
export { reckonDocument } from './reckon';
export { stampOf, stampsOf } from './stamp';
