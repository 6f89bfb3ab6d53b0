export * from './plan';
export * from './lay';
export * from './order';
export * from './program';
export * from './fit';
export * from './score';
export * from './next';
export * from './family';
