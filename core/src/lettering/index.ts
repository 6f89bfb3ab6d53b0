export * from './alphabet';
export * from './fit';
