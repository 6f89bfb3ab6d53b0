export * from './correction';
export * from './propose';
export * from './edges';
export * from './individuals';
export * from './rim';
