export * from './reckon';
export * from './stations';
export * from './steps';
export * from './files';
export * from './gate';
export * from './loads';
export * from './small-picture';
export * from './correction';
