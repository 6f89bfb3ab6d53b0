/**
 * Factors from a standard uncertainty to what holds 95 of 100, for a normal error that is known well
 * (many degrees of freedom). They differ by what the uncertainty is of.
 */

/** Along one axis, either way: the 0.975 quantile of the standard normal [JCGM 100:2008, table G.1]. */
export const AXIS_95 = 1.959964;

/** In the plane, of the standard deviation along each axis: √χ²(0.95; 2) = √(−2 ln 0.05) = 2.448. */
export const PLANE_95 = Math.sqrt(-2 * Math.log(0.05));

/** In the plane, of the radial standard uncertainty √(ux² + uy²): √(−ln 0.05) = 1.731. */
export const RADIAL_95 = PLANE_95 / Math.SQRT2;
