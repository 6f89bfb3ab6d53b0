export { artRecipesIn, artworksIn, carriesArtwork, loadArtwork } from './artworks';
export { loadBatch, loadBlank, loadDrive, loadFeeder, loadMachine, loadRecipe } from './load';
export { needBoard } from './need-board';
export { reckonDocument } from './reckon';
export { stampOf, stampsOf } from './stamp';
