export * from './roster';
export * from './roster-layout';
export * from './loads';
export * from './capability';
