export * from './reckon';
export * from './stations';
export * from './steps';
export * from './output';
export * from './fixing-files';
