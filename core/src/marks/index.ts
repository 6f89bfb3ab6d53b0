export * from './solve';
export * from './consistency';
export * from './uncertainty';
export * from './pointer';
export * from './turn-work';
export * from './models';
export * from './error-map';
export * from './mistakes';
