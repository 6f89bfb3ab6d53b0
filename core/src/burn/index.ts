export * from './axes';
export * from './changed';
export * from './machine';
export * from './moves';
export * from './toolpath';
