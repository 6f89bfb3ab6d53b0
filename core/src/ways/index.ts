export * from './way';
export * from './register';
export * from './adopt';
