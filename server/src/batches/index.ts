export { artRecipesIn, artworksIn, carriesArtwork, loadArtwork, withShapes } from './artworks';
export { loadBatch, loadBlank, loadWhole, loadDrive, loadFeeder, loadMachine, loadRecipe } from './load';
export { needBoard } from './need-board';
export { reckonDocument } from './reckon';
export { stampOf, stampsOf } from './stamp';
