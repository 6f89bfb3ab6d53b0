export * from './axes';
export * from './machine';
export * from './moves';
export * from './toolpath';
