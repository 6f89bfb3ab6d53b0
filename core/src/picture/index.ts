export * from './grey';
export * from './halftone';
export * from './seen';
export * from './rows';
export * from './zone-picture';
export * from './file-dots';
