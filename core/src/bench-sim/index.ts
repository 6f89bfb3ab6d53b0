export * from './machine';
export * from './run';
