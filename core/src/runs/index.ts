export * from './roster';
export * from './loads';
export * from './capability';
