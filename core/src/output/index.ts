export * from './gcode';
export * from './gcode-read';
export * from './svg';
export * from './thin';
export * from './dxf';
export * from './raster';
export * from './turning';
