export * from './vec';
export * from './transform';
export * from './contour';
export * from './hull';
export * from './offset';
export * from './parallel';
export * from './scanline';
export * from './linear';
