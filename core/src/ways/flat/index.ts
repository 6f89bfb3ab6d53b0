export * from './reckon';
export * from './steps';
export * from './stations';
export * from './flat-way';
export * from './parts';
