/** How far jaws reach over a blank, and how thick they are drawn, mm. */
const GRIP = 12;
const JAW = 8;

/** A chuck from the side: its body on the motor, and two of its jaws over the end of the blank that they hold. */
export const Chuck = ({
  x,
  out,
  axis,
  stand,
  radius,
}: {
  /** The end that is held. */
  x: number;
  /** Which way it lies from there: −1 to the left. */
  out: 1 | -1;
  axis: number;
  stand: number;
  /** Of the blank there. */
  radius: number;
}) => {
  const thin = { strokeWidth: 1, vectorEffect: 'non-scaling-stroke' } as const;
  const box = (from: number, to: number, y: number, height: number, className: string) =>
    <rect x={Math.min(x + out * from, x + out * to)} width={Math.abs(to - from)} y={y} height={height} className={className} {...thin} />; // prettier-ignore
  const face = radius + JAW + 4;
  return (
    <g>
      {box(22, 52, stand, Math.max(30, axis + 20 - stand), 'fill-hairline stroke-ink')}
      {box(6, 22, axis - face, 2 * face, 'fill-film stroke-ink')}
      {box(-GRIP, 6, axis + radius, JAW, 'fill-hairline stroke-ink')}
      {box(-GRIP, 6, axis - radius - JAW, JAW, 'fill-hairline stroke-ink')}
    </g>
  );
};
