export * from './limits';
export * from './feeder';
export * from './photo';
export * from './fixings';
export * from './things';
export * from './documents';
export * from './api';
export * from './input';
