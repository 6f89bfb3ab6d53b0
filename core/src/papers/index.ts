export * from './kinds';
export * from './lay';
