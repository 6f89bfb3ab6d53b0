export * from './blanks';
export * from './seen';
export * from './camera';
export * from './grey';
export * from './marks';
export * from './rectify';
export * from './settings';
export * from './kept';
