export * from './input';
export * from './reckon';
export * from './stations';
export * from './steps';
export * from './output';
