export * from './propose';
export * from './left';
