export * from './calibrate';
export * from './errors';
export * from './feeders';
export * from './settings';
export * from './strip';
export * from './interlock';
