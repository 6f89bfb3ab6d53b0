import { Resvg } from '@resvg/resvg-js';

/** Makes a drawing plain: paths with matrices, paints and clip paths. No font of this machine is taken for its texts. */
export const plainSvg = (svg: string): string => new Resvg(svg, { font: { loadSystemFonts: false } }).toString();
