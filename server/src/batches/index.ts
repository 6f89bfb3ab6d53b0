export { lastOfThePair } from './drive-pair';
export { artRecipesIn, artworksIn, carriesArtwork, loadArtwork, withShapes } from './artworks';
export { hashOf } from './approval';
export { loadBatch, loadBlank, loadWhole, loadDrive, loadFeeder, loadMachine, loadRecipe } from './load';
export { needBoard } from './need-board';
export { reckonDocument } from './reckon';
export { listShopSteps, loadShopStep } from './shop-steps';
export { listTrials, loadTrial, proofOf } from './trials';
export { stampOf, stampsOf } from './stamp';
