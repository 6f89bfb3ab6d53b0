export * from './random';
export * from './combine';
export * from './input';
export * from './source';
export * from './simulate';
export * from './budget';
export * from './round';
export { BUBBLE, CREEP, UNCALIBRATED } from './round-drive';
export { EYE } from './round-part';
