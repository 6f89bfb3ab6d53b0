export * from './bits';
export * from './nest';
