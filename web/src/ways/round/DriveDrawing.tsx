import {
  diameterAt,
  featureName,
  featuresOf,
  greatestDiameter,
  listed,
  roundLength,
  type OnDrive,
  type OtherFeature,
  type RoundShape,
} from '@bistre/core';
import type { RoundShown } from '../../data/shown';
import { Chuck } from './Chuck';
import { Drawing, Legend, ScaleBar, useSize, type View } from '../../drawing/scale';

const HEAD = 26;

/** Half profile, its crest up, from the rim on; mm, x along, y up from the axis. */
const profilePath = (shape: RoundShape, side: 1 | -1): string => {
  const points = shape.profile.map((p) => `${p.at * side} ${p.diameter / 2}`);
  const back = [...shape.profile].reverse().map((p) => `${p.at * side} ${-p.diameter / 2}`);
  return `M${points.join('L')}L${back.join('L')}Z`;
};

/** The nozzle over a point of the crest, with its focus gap. */
const Nozzle = ({ x, y, gap, k }: { x: number; y: number; gap: number; k: number }) => (
  <g>
    <path
      d={`M${x - 9} ${y + gap + HEAD}H${x + 9}V${y + gap + 12}L${x + 3} ${y + gap}H${x - 3}L${x - 9} ${y + gap + 12}Z`}
      className="fill-film stroke-ink"
      strokeWidth={1.2}
      vectorEffect="non-scaling-stroke"
    />
    <line
      x1={x}
      x2={x}
      y1={y}
      y2={y + gap}
      className="stroke-oxide"
      strokeWidth={1.6 / k}
      strokeDasharray={`${4 / k} ${3 / k}`}
    />
  </g>
);

/** One thing on the blank as it is seen end-on, at the crest: a handle, or the arc of a logo or a weld. */
const FeatureOnEnd = ({ feature, axis, r }: { feature: OtherFeature; axis: number; r: number }) => {
  const half = (feature.width ?? 0) / 2;
  if (feature.reach > 0) {
    const wide = Math.max(5, half);
    return (
      <path
        d={`M${-wide} ${axis + r}v${feature.reach}h${2 * wide}v${-feature.reach}`}
        className="fill-hairline stroke-ink"
        strokeWidth={1}
        vectorEffect="non-scaling-stroke"
      />
    );
  }
  if (half === 0) return <circle cx={0} cy={axis + r} r={2.4} className="fill-copper" />;
  const [x, y] = [r * Math.sin(Math.min(Math.PI, half / r)), r * Math.cos(Math.min(Math.PI, half / r))];
  return (
    <path
      d={`M${-x} ${axis + y}A${r} ${r} 0 ${half > (r * Math.PI) / 2 ? 1 : 0} 0 ${x} ${axis + y}`}
      className="fill-none stroke-copper"
      strokeWidth={4}
      vectorEffect="non-scaling-stroke"
    />
  );
};

/**
 * The blank end-on between its rollers: contacts, crest, head and what a handle sweeps.
 * @param turned how far its feature lies from the crest, counter-clockwise, degrees
 * @param side 1 where it is seen from its base, so that angles go clockwise; −1 where from its rim
 */
const EndView = ({
  shape,
  on,
  stand,
  gap,
  turned,
  side,
  k,
}: {
  shape: RoundShape;
  on: OnDrive;
  stand: number;
  gap: number;
  turned: number;
  side: 1 | -1;
  k: number;
}) => {
  const { seat, drive } = on;
  const r = seat.contactDiameter / 2;
  const axis = seat.axisHeight + stand;
  const g = seat.centreDistance / 2;
  const low = drive.height + stand;
  const thin = { strokeWidth: 1, vectorEffect: 'non-scaling-stroke' } as const;
  return (
    <g>
      {drive.kind !== 'chuck' ? (
        <>
          <rect
            x={-g - seat.rollerRadius}
            y={stand}
            width={2 * (g + seat.rollerRadius)}
            height={Math.max(2, low - seat.rollerRadius - stand - 2)}
            className="fill-film stroke-rim"
            {...thin}
          />
          {[-g, g].map((x, i) => {
            const driven = i === 0 || drive.driven === 2;
            return (
              <g key={x}>
                <circle
                  cx={x}
                  cy={low}
                  r={seat.rollerRadius}
                  className={driven ? 'fill-hairline stroke-ink' : 'fill-sheet stroke-ink'}
                  strokeWidth={1.4}
                  vectorEffect="non-scaling-stroke"
                />
                <circle cx={x} cy={low} r={1.6} className="fill-ink" />
                <line
                  x1={x}
                  y1={low}
                  x2={0}
                  y2={axis}
                  className="stroke-blue"
                  strokeDasharray={`${8 / k} ${4 / k}`}
                  strokeWidth={1 / k}
                />
              </g>
            );
          })}
        </>
      ) : (
        <>
          <rect x={-40} y={stand} width={80} height={axis - stand} className="fill-film stroke-rim" {...thin} />
          {[90, 210, 330].map((a) => (
            <rect
              key={a}
              x={-6}
              y={r}
              width={12}
              height={16}
              transform={`translate(0 ${axis}) rotate(${a - 90})`}
              className="fill-hairline stroke-ink"
              {...thin}
            />
          ))}
        </>
      )}
      {on.sweep.radius > 0 && (
        <circle
          cx={0}
          cy={axis}
          r={on.sweep.radius}
          fill="url(#hatch)"
          fillOpacity={0.35}
          className="stroke-oxide"
          strokeDasharray={`${5 / k} ${4 / k}`}
          strokeWidth={1 / k}
        />
      )}
      <circle
        cx={0}
        cy={axis}
        r={greatestDiameter(shape) / 2}
        className="fill-sheet stroke-ink"
        strokeWidth={1.8}
        vectorEffect="non-scaling-stroke"
      />
      <circle
        cx={0}
        cy={axis}
        r={Math.max(0, greatestDiameter(shape) / 2 - shape.wall)}
        className="fill-none stroke-rim"
        {...thin}
      />
      <g transform={`rotate(${turned} 0 ${axis})`}>
        {featuresOf(shape).map((f, i) => (
          <g key={i} transform={`rotate(${(-side * 180 * f.angle) / Math.PI} 0 ${axis})`}>
            <FeatureOnEnd feature={f} axis={axis} r={r} />
          </g>
        ))}
      </g>
      {drive.kind !== 'chuck' &&
        [-1, 1].map((s) => (
          <circle
            key={s}
            cx={s * r * Math.sin(seat.theta)}
            cy={axis - r * Math.cos(seat.theta)}
            r={3.2 / k}
            className="fill-oxide"
          />
        ))}
      <path d={`M${-5 / k} ${axis}h${10 / k}M0 ${axis - 5 / k}v${10 / k}`} className="stroke-ink" strokeWidth={1 / k} />
      <Nozzle x={0} y={axis + r} gap={gap} k={k} />
    </g>
  );
};

/** The blank from the operator's side: rollers, motor, contact circle, tilt, head over the art. */
const SideView = ({
  round,
  on,
  stand,
  gap,
  rimFaces,
  overhang,
  k,
}: {
  round: RoundShown;
  on: OnDrive;
  stand: number;
  gap: number;
  rimFaces: 'left' | 'right';
  overhang: number;
  k: number;
}) => {
  const { shape } = round;
  const { seat, drive, taper } = on;
  const side = rimFaces === 'left' ? 1 : -1;
  const length = roundLength(shape);
  // The blank's middle is drawn at the view's middle; the rim lies on its side.
  const rimX = (-side * length) / 2;
  const axis = seat.axisHeight + stand;
  const low = drive.height + stand;
  const contactX = rimX + side * seat.contactAt;
  const tilt = (taper.raise === 'rim' ? 1 : -1) * side * ((taper.tilt * 180) / Math.PI);
  const artX = rimX + (side * (round.artFrom + round.artTo)) / 2;
  const artR = diameterAt(shape.profile, (round.artFrom + round.artTo) / 2) / 2;
  // On the rim's side the rollers end before what hangs over; the motor stands at their end.
  const rimEnd = rimX + side * (overhang > 0 ? overhang : -14);
  const baseEnd = rimX + side * (length + 14);
  const rollers = { from: Math.min(rimEnd, baseEnd), to: Math.max(rimEnd, baseEnd) };
  const motorX = drive.motorSide === 'left' ? rollers.from - 20 : rollers.to + 20;
  // Tilting turns the blank about its contact circle.
  const turn = `rotate(${-tilt} ${contactX} ${axis})`;
  const thin = { strokeWidth: 1, vectorEffect: 'non-scaling-stroke' } as const;
  // What holds the raised end up.
  const propAt = taper.raise === 'rim' ? 8 : length - 8;
  const propX = rimX + side * propAt;
  const propTop =
    axis - diameterAt(shape.profile, propAt) / 2 + Math.sin(taper.tilt) * Math.abs(propAt - seat.contactAt);
  const crest = axis + artR + (Math.sin((-tilt * Math.PI) / 180) * (artX - contactX) || 0);
  return (
    <g>
      {drive.kind === 'chuck' ? (
        <Chuck
          x={(drive.motorSide === 'left' ? -1 : 1) * (length / 2)}
          out={drive.motorSide === 'left' ? -1 : 1}
          axis={axis}
          stand={stand}
          radius={diameterAt(shape.profile, drive.motorSide === (side > 0 ? 'left' : 'right') ? 0 : length) / 2}
        />
      ) : (
        <>
          <rect
            x={rollers.from - 4}
            y={stand}
            width={rollers.to - rollers.from + 8}
            height={Math.max(2, low - seat.rollerRadius - stand - 2)}
            className="fill-film stroke-rim"
            {...thin}
          />
          <rect
            x={motorX - 17}
            y={stand}
            width={34}
            height={Math.max(30, low + 12 - stand)}
            className="fill-hairline stroke-ink"
            {...thin}
          />
          <rect
            x={rollers.from}
            y={low - seat.rollerRadius}
            width={rollers.to - rollers.from}
            height={2 * seat.rollerRadius}
            className="fill-hairline stroke-ink"
            {...thin}
          />
        </>
      )}
      {taper.raise && (
        <path
          d={`M${propX - 5} ${low + seat.rollerRadius}h10L${propX + 1.5} ${propTop}h-3Z`}
          className="fill-hairline stroke-ink"
          {...thin}
        />
      )}
      <g transform={turn}>
        <path
          d={profilePath(shape, side as 1 | -1)}
          transform={`translate(${rimX} ${axis})`}
          className="fill-sheet stroke-ink"
          strokeWidth={1.8}
          vectorEffect="non-scaling-stroke"
        />
        <line
          x1={rimX}
          x2={rimX + side * length}
          y1={axis}
          y2={axis}
          className="stroke-rim"
          strokeDasharray={`${10 / k} ${3 / k} ${2 / k} ${3 / k}`}
          strokeWidth={1 / k}
        />
        <line
          x1={contactX}
          x2={contactX}
          y1={axis - seat.contactDiameter / 2}
          y2={axis + seat.contactDiameter / 2}
          className="stroke-oxide"
          strokeWidth={1.4 / k}
        />
        {[round.artFrom, round.artTo].map((at) => (
          <line
            key={at}
            x1={rimX + side * at}
            x2={rimX + side * at}
            y1={axis - 6 / k}
            y2={axis + diameterAt(shape.profile, at) / 2}
            className="stroke-blue"
            strokeDasharray={`${8 / k} ${4 / k}`}
            strokeWidth={1.2 / k}
          />
        ))}
        <line
          x1={rimX + side * round.artFrom}
          y1={axis + diameterAt(shape.profile, round.artFrom) / 2}
          x2={rimX + side * round.artTo}
          y2={axis + diameterAt(shape.profile, round.artTo) / 2}
          className="stroke-ink"
          strokeWidth={4 / k}
        />
        {featuresOf(shape)
          .filter((f) => f.reach > 0)
          .map((f, i) => {
            // How high its foot and its tip stand over the axis, as it is turned.
            const up = Math.cos(on.unrolling.zeroAt - f.angle);
            const foot = (up * diameterAt(shape.profile, f.from)) / 2;
            return (
              <rect
                key={i}
                x={rimX + Math.min(side * f.from, side * f.to)}
                y={axis + Math.min(foot, foot + up * f.reach)}
                width={f.to - f.from}
                height={Math.abs(up * f.reach)}
                className="fill-none stroke-ink"
                {...thin}
              />
            );
          })}
      </g>
      <Nozzle x={artX} y={crest} gap={gap} k={k} />
    </g>
  );
};

/** How the blank lies on its drive: end-on at the left, from the operator's side at the right, one scale. */
export const DriveDrawing = ({
  round,
  rimFaces,
  gap,
  stand,
  overhang,
}: {
  round: RoundShown;
  rimFaces: 'left' | 'right';
  gap: number;
  stand: number;
  /** Stretch from the rim that hangs over the end of the rollers, mm. */
  overhang: number;
}) => {
  const [ref, size] = useSize();
  const { on, shape } = round;
  if (!on) return null;
  const { seat, drive } = on;
  const half = Math.max(seat.centreDistance / 2 + seat.rollerRadius, greatestDiameter(shape) / 2, on.sweep.radius, 42);
  const endWidth = 2 * half + 12;
  const sideWidth = roundLength(shape) + 110;
  const height = seat.axisHeight + stand + greatestDiameter(shape) / 2 + gap + HEAD + 6;
  const k = Math.max(0.05, Math.min((size.width - 70) / (endWidth + sideWidth + 16), (size.height - 150) / height));
  const ground = size.height / 2 + (height * k) / 2 - 6;
  const endX = 35 + (endWidth * k) / 2;
  const sideX = 35 + (endWidth + 16 + sideWidth / 2) * k;
  const view = { width: size.width, height: size.height, k } as View;
  const deg = ((seat.theta * 180) / Math.PI).toFixed(1);
  const label = (
    x: number,
    y: number,
    text: string,
    anchor: 'start' | 'middle' | 'end' = 'middle',
    tone = 'fill-soft',
  ) => (
    <text x={x} y={y} textAnchor={anchor} className={`${tone} text-[12px]`}>
      {text}
    </text>
  );
  const up = (mm: number): number => ground - mm * k;
  const crest = on.heights.crest + stand;
  const side = rimFaces === 'left' ? 1 : -1;
  // The end is seen from the right. There with the rim at the left angles go clockwise: zeroed to the right of the feature,
  // that lies to the left.
  const zeroed = Math.round((on.unrolling.zeroAt * 180) / Math.PI);
  const beside = (shape.feature?.others ?? []).map((f) => `the ${featureName(f)}`);
  const others = beside.length > 0 ? `; ${listed(beside)}, to the right of it` : '';
  const rimX = sideX - (side * roundLength(shape) * k) / 2;
  return (
    <Drawing
      refTo={ref}
      label={`${drive.name} with the blank on it, end view and side view`}
      caption={
        <>
          Left: end-on, operator’s side at the left. Right: from the operator’s side, rim to the {rimFaces}. Red dots
          and line: where it is turned.
          {shape.feature
            ? ` Copper: the ${shape.feature.kind}, ${zeroed === 0 ? 'at the crest' : `${Math.abs(zeroed).toFixed(0)}° from the crest`}${others}.`
            : ''}
        </>
      }
    >
      <defs>
        <pattern id="hatch" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <line x1="0" y1="0" x2="0" y2="6" className="stroke-oxide" strokeWidth="1" />
        </pattern>
      </defs>
      <line x1={14} x2={size.width - 14} y1={ground} y2={ground} className="stroke-ink" strokeWidth={2} />
      {label(size.width - 18, ground + 36, on.standing.name.startsWith('bed') ? 'floor of the machine' : 'bed', 'end')}
      <g transform={`translate(${endX} ${ground}) scale(${k} ${-k})`}>
        <EndView shape={shape} on={on} stand={stand} gap={gap} turned={side * zeroed} side={side} k={k} />
      </g>
      <g transform={`translate(${sideX} ${ground}) scale(${k} ${-k})`}>
        <SideView round={round} on={on} stand={stand} gap={gap} rimFaces={rimFaces} overhang={overhang} k={k} />
      </g>
      {drive.kind !== 'chuck' &&
        size.width > 520 &&
        label(endX, ground + 16, `θ ${deg}°, axes ${seat.centreDistance} mm apart`)}
      {label(endX, up(crest + gap + HEAD) - 8, `crest ${crest.toFixed(1)} mm`, 'middle', 'fill-blue')}
      {label(
        sideX,
        ground + 16,
        `${roundLength(shape).toFixed(0)} mm long${overhang > 0 ? `, ${overhang.toFixed(0)} of it over the end` : ''}, motor ${drive.motorSide}`,
      )}
      {label(
        rimX + (side > 0 ? -8 : 8),
        up(seat.axisHeight + stand) + 4,
        'rim',
        side > 0 ? 'end' : 'start',
        'fill-blue font-bold',
      )}
      {on.level.raise &&
        label(
          sideX,
          up(crest + gap + HEAD) - 8,
          `${on.level.raise} raised by ${on.level.lift.toFixed(1)} mm`,
          'middle',
          'fill-blue',
        )}
      <Legend
        height={size.height}
        entries={['engrave', 'guide', ...(on.sweep.radius > 0 ? (['keep-out'] as const) : [])]}
      />
      <ScaleBar view={view} />
    </Drawing>
  );
};
