import { execFileSync } from 'node:child_process';
import sharp from 'sharp';
import { flatten, type ArtShape } from '@bistre/core';

/** Dots to the millimetre that drawings are compared in: one is 0.05 mm. */
export const DOTS = 20;
/** Size of every drawing, mm. */
export const [W, H] = [60, 40];
export const root = (body: string, attributes = `width="${W}mm" height="${H}mm" viewBox="0 0 ${W} ${H}"`): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${body}</svg>`;

export interface Dots {
  readonly data: Buffer;
  readonly width: number;
  readonly height: number;
}

export const dotsOf = async (picture: Buffer): Promise<Dots> => {
  const { data, info } = await sharp(picture).extractChannel(0).raw().toBuffer({ resolveWithObject: true });
  return { data, width: info.width, height: info.height };
};
/** A drawing as librsvg shows it, black on white. */
export const dots = (svg: string): Promise<Dots> =>
  dotsOf(execFileSync('rsvg-convert', ['-w', String(W * DOTS), '-h', String(H * DOTS), '-b', 'white'], { input: svg, maxBuffer: 1e8 })); // prettier-ignore

/** The shapes as they were read, where they were read: nothing of the file is in it but them. */
export const asRead = (shapes: readonly ArtShape[]): string => {
  const d = ({ contours }: ArtShape): string =>
    contours.map((c) => `M${flatten(c, 0.002).map((p) => `${p.x} ${H - p.y}`).join('L')}${c.closed ? 'Z' : ''}`).join(''); // prettier-ignore
  return root(shapes.map((s) => `<path d="${d(s)}" fill="${s.fill ? '#000' : 'none'}" fill-rule="${s.rule}" stroke="${s.stroke ? '#000' : 'none'}" stroke-width="${s.width}"/>`).join('')); // prettier-ignore
};

/** A speck in two corners, which holds a drawing where it is. */
export const held = (svg: string): string => svg.replace(/<\/svg>$/, `<path d="M0 ${H}h.02v-.02zM${W} 0h-.02v.02z"/></svg>`); // prettier-ignore

/** Dots that differ and have none beside them that would make up for it: what is off by more than one; and how many are dark. */
export const differing = (a: Dots, b: Dots): { off: number; ink: number } => {
  let [wrong, ink] = [0, 0];
  const dark = (p: Dots, x: number, y: number): boolean => p.data[y * p.width + x]! < 128;
  const near = (p: Dots, x: number, y: number, is: boolean): boolean => [-1, 0, 1].some((i) => [-1, 0, 1].some((j) => dark(p, x + i, y + j) === is)); // prettier-ignore
  for (let y = 1; y < a.height - 1; y += 1)
    for (let x = 1; x < a.width - 1; x += 1) {
      const [one, other] = [dark(a, x, y), dark(b, x, y)];
      if (one) ink += 1;
      if (one !== other && (!near(b, x, y, one) || !near(a, x, y, other))) wrong += 1;
    }
  return { off: wrong, ink };
};

const star = Array.from({ length: 5 }, (_, i) => `${(30 + 18 * Math.sin((4 * Math.PI * i) / 5)).toFixed(3)},${(20 - 18 * Math.cos((4 * Math.PI * i) / 5)).toFixed(3)}`).join(' '); // prettier-ignore
/** Drawings that use what files use, each by its name. */
export const DRAWINGS: readonly (readonly [string, string])[] = [
  ['curves of every kind', '<path d="M8 20C8 5 25 5 25 20S45 35 45 20Q50 5 55 20T58 30L50 38H12V34A5 3 20 0 0 8 20Z"/>'],
  ['relative ones', '<path d="m10 10 20 0q5 5 0 10t-10 5c-5 5-15-2-10-15z"/>'],
  ['arcs, long and short, turned, too short', '<path d="M10 10A8 4 30 1 0 20 14A1 1 0 0 1 40 14A12 6 -20 0 1 50 30L10 30Z"/>'],
  ['circles, ellipses, elliptic corners', '<circle cx="12" cy="12" r="9"/><ellipse cx="40" cy="12" rx="15" ry="8"/><rect x="5" y="24" width="50" height="14" rx="9" ry="4"/>'],
  ['a star, whole by one rule', `<polygon points="${star}"/>`],
  ['and with a hole by the other', `<polygon points="${star}" fill-rule="evenodd"/>`],
  ['a ring whose inside runs the other way', '<path d="M5 5H35V35H5ZM12 12V28H28V12Z"/>'],
  ['groups turned, leaned and mirrored', '<g transform="translate(30 20) rotate(25)"><g transform="skewX(15) scale(-1 .7)"><rect x="-15" y="-10" width="25" height="18"/><path d="M-18-14l6 4-6 4z"/></g></g>'],
  ['transforms of a style sheet', '<style>.r{transform:translate(12px,8px) rotate(20deg) scale(1.2,.8)}</style><rect class="r" x="5" width="24" height="15"/>'],
  ['units and percent', '<rect x="5mm" y="10%" width="25%" height="20%"/><circle cx="50%" cy="50%" r="10%"/>'],
  ['a nested drawing, fitted', '<svg x="5" y="5" width="40" height="30" viewBox="0 0 10 10" preserveAspectRatio="xMaxYMin"><path d="M0 0h10l-5 10z"/></svg>'],
  ['one that is cut at its edge', '<svg x="10" y="10" width="20" height="20"><circle cx="0" cy="10" r="16"/></svg>'],
  ['things used again', '<defs><path id="p" d="M0 0h8l-4 9z"/><symbol id="s" viewBox="0 0 4 4"><circle cx="2" cy="2" r="2"/></symbol></defs><use xlink:href="#p" x="5" y="5"/><use href="#p" transform="translate(30 8) rotate(40) scale(1.5)"/><use href="#s" x="40" y="20" width="14" height="14"/>'],
  ['a round clip', '<clipPath id="c"><circle cx="25" cy="20" r="14"/></clipPath><g clip-path="url(#c)"><rect x="5" y="18" width="50" height="5"/><rect x="22" y="0" width="6" height="40"/></g>'],
  ['a clip in parts of the shape', '<clipPath id="c" clipPathUnits="objectBoundingBox"><rect x=".25" y="0" width=".5" height="1"/></clipPath><ellipse cx="30" cy="20" rx="25" ry="12" clip-path="url(#c)"/>'],
  ['strokes of every width', '<g fill="none" stroke="#000"><path d="M5 5L55 12" stroke-width="1"/><path d="M5 15C20 40 40-10 55 20" stroke-width=".5"/><circle cx="30" cy="28" r="9" stroke-width="2"/></g>'],
  ['a stroke that is scaled', '<g transform="scale(2)"><path d="M4 4H26V16" fill="none" stroke="#000" stroke-width=".6"/></g>'],
  ['what is hidden in every way', '<rect x="5" y="5" width="10" height="10"/><rect x="20" y="5" width="10" height="10" display="none"/><rect x="35" y="5" width="10" height="10" visibility="hidden"/><g opacity="0"><rect x="5" y="20" width="10" height="10"/></g><rect x="20" y="20" width="10" height="10" fill="none"/>'],
  ['classes, ids and inheritance', '<style>path{fill:none;stroke:#000;stroke-width:1}.f{fill:#000}#n{stroke:none}</style><g><path d="M5 5h20v12H5z"/><path class="f" d="M32 5h20v12H32z"/><path id="n" class="f" d="M5 22h20v12H5z"/></g>'],
]; // prettier-ignore
