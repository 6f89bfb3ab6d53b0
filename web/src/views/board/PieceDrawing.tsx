import type { BatchRow } from '@bistre/contract';

/** A piece with its art, small and true: both sides to one scale. */
export const PieceDrawing = ({ of: { box, outline, fill, line, cut }, name }: { of: BatchRow['picture']; name: string }) => {
  const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
  const rim = 0.02 * Math.max(width, height);
  return (
    <svg
      viewBox={`${box.minX - rim} ${-box.maxY - rim} ${width + 2 * rim} ${height + 2 * rim}`}
      className="block h-[52px] w-full"
      role="img"
      aria-label={`${name}, ${width.toFixed(0)} × ${height.toFixed(0)} mm`}
    >
      <g transform="scale(1 -1)" strokeWidth={1} strokeLinejoin="round">
        <path d={outline} fillRule="evenodd" className="fill-sheet stroke-soft" vectorEffect="non-scaling-stroke" />
        {fill && <path d={fill} fillRule="evenodd" className="fill-ink" />}
        {line && <path d={line} className="fill-none stroke-ink" vectorEffect="non-scaling-stroke" />}
        {cut && <path d={cut} className="fill-none stroke-logwood" vectorEffect="non-scaling-stroke" />}
      </g>
    </svg>
  );
}; // prettier-ignore
