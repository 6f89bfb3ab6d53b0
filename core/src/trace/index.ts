export * from './png';
export * from './ink';
export * from './rings';
export * from './shapes';
export * from './smooth';
export * from './edges';
export * from './touching';
export * from './sheet';
