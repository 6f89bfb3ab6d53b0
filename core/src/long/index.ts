export * from './art';
export * from './seams';
export * from './chain';
export * from './plan';
export * from './cut-out';
export * from './over';
