export * from './faces';
export * from './reckon';
export * from './output';
export * from './still';
