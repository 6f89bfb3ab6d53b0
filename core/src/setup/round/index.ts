export * from './faces';
export * from './reckon';
export * from './output';
export { type Pictures, type TurningNeeds } from './turned';
export * from './still';
export * from './reckoned';
