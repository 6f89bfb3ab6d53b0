import type { ArtPaths, Role } from '@bistre/core';
import { useEffect, useState } from 'react';
import { Drawing, fitView, Legend, ScaleBar, useSize } from './scale';

const LOOKS: Readonly<Record<Role, string>> = {
  area: 'fill-ink stroke-none',
  line: 'fill-none stroke-ink',
  cut: 'fill-none stroke-logwood',
  guide: 'fill-none stroke-blue',
};

/** Paths that a frame takes in beside what it does anyway. */
const A_FRAME = 2;

/** How many of a drawing's paths are there: some more with each frame, so that the page keeps answering. */
const useGrowing = (art: ArtPaths): number => {
  const [grown, setGrown] = useState<{ readonly of: ArtPaths; readonly count: number }>({ of: art, count: A_FRAME });
  const count = grown.of === art ? grown.count : A_FRAME;
  useEffect(() => {
    if (count >= art.paths.length) return undefined;
    const frame = requestAnimationFrame(() => setGrown({ of: art, count: count + A_FRAME }));
    return () => cancelAnimationFrame(frame);
  }, [art, count]);
  return count;
};

/** A file of art to scale, as it is burned; guides dashed. */
export const ArtDrawing = ({ art }: { art: ArtPaths }) => {
  const { box, paths } = art;
  const count = useGrowing(art);
  const [ref, size] = useSize();
  const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
  const view = fitView(size, { x: box.minX, y: box.minY, width, height }, { left: 30, right: 30, top: 48, bottom: 70 });
  return (
    <Drawing
      refTo={ref}
      label="The art, to scale"
      caption={`${width.toFixed(1)} × ${height.toFixed(1)} mm in its file.`}
    >
      <g transform={view.group}>
        {paths.slice(0, count).map(({ role, d }, i) => (
          <path
            key={i}
            d={d}
            data-role={role}
            className={LOOKS[role]}
            fillRule="evenodd"
            strokeWidth={1.2}
            strokeDasharray={role === 'guide' ? '8 4' : undefined}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </g>
      <Legend height={size.height} entries={['engrave', 'cut', 'guide']} />
      <ScaleBar view={view} />
    </Drawing>
  );
};
