export * from './distributions';
export * from './stats';
export * from './tolerance';
export * from './size';
export * from './plausibility';
export * from './coverage';
