export * from './machine';
export * from './run';
export * from './cup';
export * from './segments';
export * from './feeder';
export * from './camera';
export * from './scatter';
export * from './lay';
