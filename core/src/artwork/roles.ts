/** What is done with all that a file draws in one style; a guide is never burned. */
export const ROLES = ['area', 'line', 'cut', 'guide'] as const;
export type Role = (typeof ROLES)[number];
