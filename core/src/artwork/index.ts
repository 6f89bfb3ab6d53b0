export * from './pieces';
export * from './outline-svg';
export * from './outline-dxf';
export * from './outline';
export * from './defects';
export * from './art-file';
