export * from './bits';
export * from './nest';
export * from './remains';
