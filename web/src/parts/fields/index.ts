export * from './choices';
export * from './Field';
export * from './Form';
export * from './List';
export * from './NumberInput';
export * from './TextInput';
export * from './Measure';
