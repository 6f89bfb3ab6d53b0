export * from './input';
export * from './reckon';
export * from './place';
export * from './stations';
export * from './cautions';
export * from './round';
export * from './steps';
export * from './output';
