import { PICTURES } from '@bistre/contract';
import { compose } from '@bistre/core';
import type { PathsShown } from '../data/shown';
import { matrix } from './scale';

/** What one piece carries, in its own frame with y up: pictures, what is filled, drawn and cut. */
export const PieceArt = ({
  art: { fill, line, cut, pictures = [] },
  width = 1,
  onPhoto = false,
}: {
  art: PathsShown;
  width?: number;
  /** On a photograph ink is dark in either theme. */
  onPhoto?: boolean;
}) => (
  <>
    {pictures.map((p, i) => (
      <image
        key={i}
        href={`${PICTURES}/${p.pictureId}`}
        width={p.width}
        height={p.height}
        preserveAspectRatio="none"
        transform={matrix(compose(p.place, { a: 1, b: 0, c: 0, d: -1, e: 0, f: p.height }))}
        className={p.negative ? 'shades shades-negative' : 'shades'}
      />
    ))}
    {fill && <path d={fill} className={onPhoto ? 'fill-[#241a13]' : 'fill-ink'} />}
    {line && (
      <path
        d={line}
        className={`fill-none ${onPhoto ? 'stroke-[#241a13]' : 'stroke-ink'}`}
        strokeWidth={width}
        vectorEffect="non-scaling-stroke"
      />
    )}
    {cut && <path d={cut} className="fill-none stroke-logwood" strokeWidth={width} vectorEffect="non-scaling-stroke" />}
  </>
);
