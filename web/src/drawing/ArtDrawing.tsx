import type { Role } from '@bistre/core';
import type { ArtPaths } from '../data/shown';
import { Drawing, fitView, Legend, ScaleBar, useSize } from './scale';

const LOOKS: Readonly<Record<Role, string>> = {
  area: 'fill-ink stroke-none',
  line: 'fill-none stroke-ink',
  cut: 'fill-none stroke-logwood',
  guide: 'fill-none stroke-blue',
};

/** A file of art to scale, as it is burned; guides dashed. */
export const ArtDrawing = ({ art: { box, paths } }: { art: ArtPaths }) => {
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
        {paths.map(({ role, d }) => (
          <path
            key={role}
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
