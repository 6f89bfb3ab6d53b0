import { contoursBox, DRAWN_BY, roleOf, screenPath, styleKey, type Artwork, type Role } from '@bistre/core';
import { Drawing, fitView, Legend, ScaleBar, useSize } from './scale';

const LOOKS: Readonly<Record<Role, string>> = {
  area: 'fill-ink stroke-none',
  line: 'fill-none stroke-ink',
  cut: 'fill-none stroke-logwood',
  guide: 'fill-none stroke-blue',
};

/** A file of art to scale, each shape as it is burned; guides dashed. */
export const ArtDrawing = ({ shapes, roles }: Pick<Artwork, 'shapes' | 'roles'>) => {
  const [ref, size] = useSize();
  const box = contoursBox(shapes.flatMap((s) => s.contours));
  const [width, height] = [box.maxX - box.minX, box.maxY - box.minY];
  const view = fitView(size, { x: box.minX, y: box.minY, width, height }, { left: 30, right: 30, top: 48, bottom: 70 });
  const drawn = shapes.flatMap((s, i) => {
    const d = s.contours.map((c) => screenPath(c)).join('');
    return DRAWN_BY.flatMap((of) => {
      const paint = s[of];
      if (paint === null) return [];
      const role = roleOf(roles, { key: styleKey(of, paint), of });
      return [{ key: `${i} ${of}`, d, role, rule: s.rule }];
    });
  });
  return (
    <Drawing
      refTo={ref}
      label="The art, to scale"
      caption={`${width.toFixed(1)} × ${height.toFixed(1)} mm in its file.`}
    >
      <g transform={view.group}>
        {drawn.map(({ key, d, role, rule }) => (
          <path
            key={key}
            d={d}
            data-role={role}
            className={LOOKS[role]}
            fillRule={rule}
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
