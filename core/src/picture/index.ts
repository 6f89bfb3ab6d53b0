export * from './grey';
export * from './halftone';
export * from './seen';
export * from './rows';
