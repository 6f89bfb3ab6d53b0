export * from './names';
export * from './code';
