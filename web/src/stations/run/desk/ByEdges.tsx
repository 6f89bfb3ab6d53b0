import { useState } from 'react';
import { caliperReading } from '@bistre/contract';
import { boxHeight, boxOf, boxWidth, degrees, burnedFromArt, edgeDistances, findFromEdges, fixed, type BlankSizes, type Mm, type Rad, type Vec } from '@bistre/core'; // prettier-ignore
import type { PathsShown } from '../../../data/shown';
import { PieceArt } from '../../../drawing/PieceArt';
import { Measure } from '../../../parts/fields';
import { Modal } from '../../../parts/Modal';
import { Finding } from '../../../parts/Part';
import { Working } from '../../../parts/Reading';

const path = (points: readonly Vec[]): string => `M${points.map((p) => `${p.x} ${-p.y}`).join('L')}Z`;

/** Art turned further than this on its piece was hardly burned so: a distance stands at another’s number. */
const BELIEVED: Rad = 0.05;

/** The piece with its art, and which distances are taken, numbered. */
const Drawn = ({
  outline,
  art,
  distances,
}: {
  outline: readonly Vec[];
  art: PathsShown;
  distances: ReturnType<typeof edgeDistances>;
}) => {
  const box = boxOf(outline);
  const edge = Math.max(boxWidth(box), boxHeight(box)) * 0.08;
  const size = Math.max(boxWidth(box), boxHeight(box));
  return (
    <svg
      viewBox={`${box.minX - edge} ${-box.maxY - edge} ${boxWidth(box) + 2 * edge} ${boxHeight(box) + 2 * edge}`}
      className="max-h-64 w-full bg-film"
      role="img"
      aria-label="The piece, its art and the distances to take"
    >
      <path d={path(outline)} className="fill-sheet stroke-ink" strokeWidth={1.2} vectorEffect="non-scaling-stroke" />
      <g transform="scale(1 -1)">
        <PieceArt art={art} />
      </g>
      {distances.map((d, i) => (
        <g key={d.id}>
          <path
            d={`M${d.from.x} ${-d.from.y}L${d.to.x} ${-d.to.y}`}
            className="stroke-blue"
            strokeWidth={2}
            vectorEffect="non-scaling-stroke"
          />
          <circle
            cx={(d.from.x + d.to.x) / 2}
            cy={-(d.from.y + d.to.y) / 2}
            r={size * 0.03}
            className="fill-sheet stroke-blue"
            strokeWidth={1}
            vectorEffect="non-scaling-stroke"
          />
          <text
            x={(d.from.x + d.to.x) / 2}
            y={-(d.from.y + d.to.y) / 2 + size * 0.014}
            fontSize={size * 0.042}
            textAnchor="middle"
            className="fill-blue font-bold"
          >
            {i + 1}
          </text>
        </g>
      ))}
    </svg>
  );
};

/** Where the art lies on its piece, by a few distances to the edges taken with a caliper. */
export const ByEdges = ({
  name,
  outline,
  art,
  sizes,
  burned,
  onUse,
  onClose,
}: {
  name: string;
  outline: readonly Vec[];
  /** What the piece carries. */
  art: PathsShown;
  sizes: BlankSizes;
  /** What the machine did of it: the art, or the cut round art that was printed before. */
  burned: 'art' | 'cut';
  onUse: (found: { dx: Mm; dy: Mm; yaw: Rad }) => void;
  onClose: () => void;
}) => {
  const prior = { length: sizes.length.spread, width: sizes.width.spread };
  const [distances] = useState(() => edgeDistances(outline, art.hull ?? [], prior));
  const [taken, setTaken] = useState<Readonly<Record<string, Mm>>>({});
  const found = findFromEdges(distances, taken, outline, prior);
  const off = found && burnedFromArt(found, burned);
  const sure = found !== null && Math.abs(found.turn) > 2 * found.doubt.turn;
  const wild = found !== null && Math.abs(found.turn) > BELIEVED;
  const plus = (v: number, u: number, digits = 2): string => `${fixed(v, digits)} ± ${fixed(2 * u, digits)}`;
  return (
    <Modal
      open
      wide
      onOpenChange={(open) => !open && onClose()}
      title={`Where the art lies${name ? ` on ${name}` : ''}`}
      note="Caliper from the art’s outermost points straight to the edge. Three are enough; each further one makes it surer, and both sides tell a longer piece from art that is off."
    >
      <div className="grid gap-5 md:grid-cols-2">
        <Drawn outline={outline} art={art} distances={distances} />
        <ol className="space-y-2">
          {distances.map((d, i) => (
            <li key={d.id} className="grid grid-cols-[1.5rem_1fr_8rem] items-center gap-2">
              <b className="text-blue">{i + 1}</b>
              <span>
                {d.label} <span className="text-[13px] text-soft">drawn {fixed(d.drawn)}</span>
              </span>
              <Measure
                of={caliperReading}
                at="distance"
                label={d.label}
                hideLabel
                value={taken[d.id] ?? null}
                onCommit={(v) => setTaken((old) => ({ ...old, [d.id]: v }))}
              />
            </li>
          ))}
        </ol>
      </div>
      <div className="mt-4 border-t border-hairline pt-3">
        {found ? (
          <p>
            Off by <b>{plus(found.off.x, found.doubt.x)}</b> mm to the right and{' '}
            <b>{plus(found.off.y, found.doubt.y)}</b> mm away from you, turned{' '}
            <b>
              {degrees(found.turn, 2)} ± {degrees(2 * found.doubt.turn, 2)}
            </b>
            {Math.abs(found.size) > 2 * found.doubt.size && (
              <>
                , {fixed(100 * found.size)} % {found.size > 0 ? 'larger' : 'smaller'} than drawn
              </>
            )}
            . At 95 %. {burned === 'cut' && 'It was printed: the cut lies as far off the other way. '}
            <Working lines={found.working} title="where the art lies" />
          </p>
        ) : (
          <p className="text-soft">{Math.max(0, 3 - Object.keys(taken).length)} more to take.</p>
        )}
        {wild && (
          <div className="mt-2">
            <Finding tone="out">
              So far turned was it hardly burned. Does each distance stand at its own number, and was each taken
              straight to the edge?
            </Finding>
          </div>
        )}
        <button
          className="act act-main mt-3 min-h-11"
          disabled={!found || wild}
          onClick={() =>
            off &&
            onUse({
              dx: Number(off.off.x.toFixed(2)),
              dy: Number(off.off.y.toFixed(2)),
              yaw: sure ? off.turn : 0,
            })
          }
        >
          Use it for this piece
        </button>
      </div>
    </Modal>
  );
};
