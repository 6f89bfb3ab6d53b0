export * from './brands';
export * from './parse';
export * from './format';
export * from './counts';
