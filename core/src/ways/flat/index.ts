export * from './reckon';
export * from './steps';
export * from './stations';
export * from './flat-way';
export * from './parts';
export * from './board-file';
export * from './files';
export * from './loads';
