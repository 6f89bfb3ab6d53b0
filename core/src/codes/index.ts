export * from './code';
