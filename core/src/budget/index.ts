export * from './random';
export * from './combine';
export * from './budget';
