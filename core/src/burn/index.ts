export * from './axes';
export * from './changed';
export * from './optics';
export * from './machine';
export * from './convert';
export * from './material-cautions';
export * from './moves';
export * from './toolpath';
