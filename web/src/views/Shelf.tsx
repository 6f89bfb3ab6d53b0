import { useState, type ReactNode } from 'react';
import { Link, NavLink, useNavigate, useParams } from 'react-router';
import type { AwayKind, OffcutDocument, RecipeDocument, ShopStepSpec } from '@bistre/contract';
import { boxOf, calibrateFeed, cellCount, counted, EFFECT_WORDS, nominalSize, NUMBER_WORDS, STATION_NAMES, stockArea, verdictsOf, WAYS } from '@bistre/core'; // prettier-ignore
import {
  useAlphabets,
  useArtworks,
  useBlanks,
  useDrives,
  useFeeders,
  useFixtures,
  useMachines,
  useOffcuts,
  useRecipes,
  useSteps,
  useTrials,
} from '../data/queries';
import { PutAway, PutAwayList } from '../parts/PutAway';
import { TopBar } from '../parts/TopBar';
import { BlankForm } from './shelf/BlankForm';

const KINDS = [
  ['blanks', 'Blanks'],
  ['fixtures', 'Fixtures'],
  ['machines', 'Machines'],
  ['drives', 'Drives'],
  ['feeders', 'Feeders'],
  ['recipes', 'Recipes'],
  ['trials', 'Trials'],
  ['steps', 'Own steps'],
  ['artworks', 'Artworks'],
  ['offcuts', 'Offcuts'],
  ['alphabets', 'Alphabets'],
] as const;

const Line = ({ to, name, detail, used }: { to?: string; name: string; detail: ReactNode; used?: ReactNode }) => {
  const inside = (
    <>
      <b className="text-lg">{name}</b>
      <span className="text-soft">{detail}</span>
      <span className="text-[13px] text-soft">{used}</span>
    </>
  );
  const grid = 'grid grid-cols-[1.2fr_2.4fr_1.6fr] items-baseline gap-5 border-t border-hairline px-2 py-3';
  return (
    <li>
      {to ? (
        <Link to={to} className={`${grid} hover:bg-sheet`}>
          {inside}
        </Link>
      ) : (
        <div className={grid}>{inside}</div>
      )}
    </li>
  );
};

const usedBy = (names: readonly string[]): string =>
  names.length === 0 ? 'not used yet' : `used by ${names.join(', ')}`;

const Blanks = () => {
  const { data } = useBlanks();
  if (data?.length === 0)
    return <p className="p-3">No blank yet. Describe the first piece you engrave here, or while you begin a batch.</p>;
  return (
    <ul>
      {data?.map((b) => {
        const size = nominalSize(b.spec.shape);
        return (
          <Line
            key={b.id}
            to={`/shelf/blanks/${b.id}`}
            name={b.name}
            detail={
              b.spec.shape.kind === 'round'
                ? `round, Ø ${size.width.toFixed(1)} × ${size.length.toFixed(1)} mm, ${b.spec.shape.material}, ${b.samples.length} readings`
                : `${b.spec.shape.kind}, ${size.length.toFixed(1)} × ${size.width.toFixed(1)} × ${b.spec.thickness} mm, ${b.samples.length} readings`
            }
            used={usedBy(b.usedBy)}
          />
        );
      })}
    </ul>
  );
};
const Artworks = () => {
  const { data = [] } = useArtworks();
  if (data.length === 0) return <p className="p-3">No artwork yet. Put the first file that a customer brought here.</p>;
  return (
    <ul>
      {data.map((a) => {
        const last = a.revisions[a.revisions.length - 1]!;
        return (
          <Line
            key={a.id}
            to={`/shelf/artworks/${a.id}`}
            name={a.name}
            detail={`${last.width.toFixed(1)} × ${last.height.toFixed(1)} mm, ${last.fileName}, r${last.number}${a.spec.customer && `, for ${a.spec.customer}`}`}
            used={usedBy(a.usedBy)}
          />
        );
      })}
    </ul>
  );
};
const Fixtures = () => {
  const { data = [] } = useFixtures();
  if (data.length === 0)
    return <p className="p-3">No boards yet. A board is saved here from the Hold station of a batch.</p>;
  return (
    <ul>
      {data.map((f) => (
        <Line
          key={f.id}
          to={`/shelf/fixtures/${f.id}`}
          name={f.name}
          detail={
            <>
              for {f.blankName};{' '}
              {f.revisions
                .map(
                  (r) =>
                    `r${r.revision} of ${new Date(r.savedAt).toLocaleDateString('en-GB')} by ${r.savedBy}, pockets ${r.basis.pocketLength.toFixed(2)} × ${r.basis.pocketWidth.toFixed(2)}`,
                )
                .join('; ')}
            </>
          }
          used={usedBy(f.usedBy)}
        />
      ))}
    </ul>
  );
};
const Machines = () => {
  const { data } = useMachines();
  if (data?.length === 0)
    return (
      <p className="p-3">
        No machine yet. Put the first one here: its bed, its corner of zero, its power. A batch is for a machine.
      </p>
    );
  return (
    <ul>
      {data?.map((m) => {
        const p = m.profile;
        return (
          <Line
            key={m.id}
            to={`/shelf/machines/${m.id}`}
            name={m.name}
            detail={`${p.source}, ${p.power} W, bed ${p.bed.width} × ${p.bed.height} mm, zero ${p.zeroCorner.replace('-', ' ')}, y runs ${p.yRuns === 'away' ? 'away from' : 'towards'} the operator`}
            used={
              <>
                kerf {p.kerf} {p.kerfMeasuredAt ? 'measured' : <b className="text-ochre">assumed</b>}; pointer{' '}
                {p.pointerOffset ? 'measured' : <b className="text-ochre">unmeasured</b>}
              </>
            }
          />
        );
      })}
    </ul>
  );
};
const Drives = () => {
  const { data = [] } = useDrives();
  if (data.length === 0) return <p className="p-3">No drive yet. Put the first one here.</p>;
  return (
    <ul>
      {data.map((d) => (
        <Line
          key={d.id}
          to={`/shelf/drives/${d.id}`}
          name={d.name}
          detail={
            d.spec.kind === 'chuck'
              ? `chuck up to ${d.spec.jaws} mm, word ${d.spec.axis.letter} in ${d.spec.axis.unit}`
              : `${d.spec.kind === 'roller' ? 'rollers' : 'wheels'} Ø ${d.spec.rollerDiameter} mm, ${(Math.PI * d.spec.rollerDiameter).toFixed(2)} mm a turn, word ${d.spec.axis.letter}`
          }
          used={d.history.length === 0 ? 'no ring read yet' : `${d.history.length} rings read`}
        />
      ))}
    </ul>
  );
};
const Feeders = () => {
  const { data = [] } = useFeeders();
  if (data.length === 0) return <p className="p-3">No feeder yet. Put the first one here.</p>;
  return (
    <ul>
      {data.map((f) => (
        <Line
          key={f.id}
          to={`/shelf/feeders/${f.id}`}
          name={f.name}
          detail={`up to ${f.spec.widest} × ${f.spec.thickest} mm, ${f.spec.longest} mm long${f.spec.longestOnRails ? `, ${f.spec.longestOnRails} on rails` : ''}; window ${f.spec.window.to - f.spec.window.from} mm`}
          used={
            f.readings.length === 0 ? (
              <b className="text-ochre">feed not measured</b>
            ) : (
              `feed factor ${calibrateFeed(f.readings, f.spec).factor.toFixed(4)} from ${f.readings.length}`
            )
          }
        />
      ))}
    </ul>
  );
};
/** What proves a recipe, in a few words. */
const proofWords = ({ proof }: RecipeDocument): ReactNode => {
  if (!proof) return <b className="text-ochre">not proved</b>;
  if (proof.stale !== null) return <b className="text-ochre">{`${proof.trialName}; ${proof.stale}`}</b>;
  return `${proof.trialName}, ${new Date(proof.at).toLocaleDateString('en-GB')}, ${proof.grade.toFixed(1)} of 10`;
};
const Recipes = () => {
  const { data } = useRecipes();
  if (data?.length === 0)
    return (
      <p className="p-3">
        No recipe yet. Put the first one here: how fast and how strong for a material, and the trial that proved it.
      </p>
    );
  return (
    <ul>
      {data?.map((r) => (
        <Line
          key={r.id}
          to={`/shelf/recipes/${r.id}`}
          name={r.name}
          detail={`${r.spec.material}; engrave ${(r.spec.engrave.power * 100).toFixed(0)} % at ${r.spec.engrave.speed} mm/s, ${r.spec.engrave.interval} mm${r.spec.after?.length ? `, then ${counted(r.spec.after.length, 'burn')} over it` : ''}`}
          used={proofWords(r)}
        />
      ))}
    </ul>
  );
};
const Trials = () => {
  const { data = [] } = useTrials();
  const { data: machines = [] } = useMachines();
  if (data.length === 0)
    return <p className="p-3">No trial yet. Plan the first on a spoiled piece: a grid of two numbers, burned and looked at.</p>; // prettier-ignore
  return (
    <ul>
      {data.map((t) => {
        const [n, looked] = [cellCount(t.spec), verdictsOf(t.scores).length];
        return (
          <Line
            key={t.id}
            to={`/shelf/trials/${t.id}`}
            name={t.name}
            detail={`${EFFECT_WORDS[t.spec.effect]}, ${t.spec.material}, on ${machines.find((m) => m.id === t.machineId)?.name ?? 'a machine put away'}; ${NUMBER_WORDS[t.spec.columns.number].name} by ${NUMBER_WORDS[t.spec.rows.number].name}`}
            used={t.proves.length > 0 ? `proves ${t.proves.map((r) => r.name).join(', ')}` : t.burned ? looked < n ? <b className="text-ochre">{n - looked} cells to look at</b> : 'every cell looked at' : <b className="text-ochre">to be burned</b>}
          />
        );
      })}
    </ul>
  );
}; // prettier-ignore
const Steps = () => {
  const { data = [] } = useSteps();
  const { data: blanks = [] } = useBlanks();
  const { data: machines = [] } = useMachines();
  if (data.length === 0)
    return (
      <p className="p-3">
        No steps of your own yet. What this shop does beside Bistre’s steps is written here once, and then stands in
        every batch of that blank, material, way or machine.
      </p>
    );
  const nameIn = (list: readonly { id: string; name: string }[], id: string): string =>
    list.find((t) => t.id === id)?.name ?? 'something that was put away';
  const belongs = ({ of }: ShopStepSpec): string => {
    if (of.kind === 'blank') return nameIn(blanks, of.blankId);
    if (of.kind === 'machine') return nameIn(machines, of.machineId);
    return of.kind === 'way' ? WAYS[of.way].words : of.material;
  };
  return (
    <ul>
      {data.map((s) => (
        <Line
          key={s.id}
          to={`/shelf/steps/${s.id}`}
          name={s.name}
          detail={[s.spec.detail, s.spec.minutes ? `${s.spec.minutes} min` : '', s.spec.photoId ? 'photograph' : '']
            .filter(Boolean)
            .join('; ')}
          used={`${STATION_NAMES[s.spec.station]}, of ${belongs(s.spec)}`}
        />
      ))}
    </ul>
  );
};
/** One offcut to scale with all others of the page: its outline, holes and knots. */
const OffcutPicture = ({ offcut, room }: { offcut: OffcutDocument; room: { width: number; height: number } }) => {
  const box = boxOf(offcut.outline);
  const w = box.maxX - box.minX;
  const h = box.maxY - box.minY;
  const d = (points: readonly { x: number; y: number }[]): string =>
    `M${points.map((p) => `${p.x - box.minX} ${box.maxY - p.y}`).join('L')}Z`;
  return (
    <svg
      viewBox={`-2 ${h - room.height - 2} ${room.width + 4} ${room.height + 4}`}
      className="block w-full"
      role="img"
      aria-label={`${offcut.name}, ${w.toFixed(0)} × ${h.toFixed(0)} mm`}
    >
      <path
        d={d(offcut.outline)}
        className="fill-sheet stroke-ink"
        strokeWidth={1.2}
        vectorEffect="non-scaling-stroke"
      />
      {offcut.defects.map((hole, i) => (
        <path
          key={i}
          d={d(hole)}
          className="fill-film stroke-oxide"
          strokeWidth={1.2}
          vectorEffect="non-scaling-stroke"
        />
      ))}
    </svg>
  );
};

const Offcuts = () => {
  const { data = [] } = useOffcuts();
  if (data.length === 0)
    return (
      <p className="p-3">
        No offcuts yet. When parts are cut from offcuts under the camera, what is left is kept here from the Hold
        station.
      </p>
    );
  const boxes = data.map((o) => boxOf(o.outline));
  // All to one scale.
  const room = {
    width: Math.max(...boxes.map((b) => b.maxX - b.minX)),
    height: Math.max(...boxes.map((b) => b.maxY - b.minY)),
  };
  return (
    <ul className="grid grid-cols-3 gap-x-6 gap-y-5">
      {data.map((o) => {
        const box = boxOf(o.outline);
        return (
          <li key={o.id} className="border-t border-hairline pt-3">
            <OffcutPicture offcut={o} room={room} />
            <p className="mt-2 text-lg font-bold">{o.name}</p>
            <p className="text-soft">
              {o.material}, {o.thickness.toFixed(1)} mm thick
            </p>
            <p className="text-[13px] text-soft">
              {(box.maxX - box.minX).toFixed(0)} × {(box.maxY - box.minY).toFixed(0)} mm,{' '}
              {(stockArea(o) / 1e4).toFixed(1)} dm²
              {o.defects.length > 0 && `, ${o.defects.length} holes and knots`}; from {o.from ?? 'a batch'},{' '}
              {new Date(o.at).toLocaleDateString('en-GB')}
            </p>
            <PutAway
              kind="offcuts"
              id={o.id}
              name={o.name}
              words="used up or thrown away"
              className="link text-[13px]"
            />
          </li>
        );
      })}
    </ul>
  );
};

const Alphabets = () => {
  const { data = [] } = useAlphabets();
  return (
    <ul>
      {data.map((a) => (
        <Line
          key={a.id}
          name={a.name}
          detail={a.kind === 'outline' ? 'outline, filled' : 'single stroke, drawn'}
          used={a.licence}
        />
      ))}
    </ul>
  );
};

/** What is put on the Shelf on a page of its own. */
const MADE_HERE: readonly string[] = ['machines', 'recipes', 'trials', 'drives', 'feeders', 'artworks', 'steps'];

const LISTS: Readonly<Record<string, () => ReactNode>> = {
  artworks: Artworks,
  blanks: Blanks,
  fixtures: Fixtures,
  machines: Machines,
  drives: Drives,
  feeders: Feeders,
  recipes: Recipes,
  steps: Steps,
  trials: Trials,
  offcuts: Offcuts,
  alphabets: Alphabets,
};

/** The Shelf: what the shop owns and knows. */
export const Shelf = () => {
  const { kind = 'blanks' } = useParams();
  const navigate = useNavigate();
  const [adding, setAdding] = useState(false);
  const List = LISTS[kind] ?? Blanks;
  return (
    <div className="flex min-h-dvh flex-col">
      <title>Shelf · Bistre</title>
      <TopBar>Shelf</TopBar>
      <main className="mx-auto w-full max-w-[1240px] flex-1 px-6 py-6">
        <div className="mb-4 flex items-end justify-between">
          <h1 className="text-3xl font-bold">Shelf</h1>
          {kind === 'blanks' && (
            <button className="act act-main" onClick={() => setAdding(true)}>
              New blank
            </button>
          )}
          {MADE_HERE.includes(kind) && (
            <button className="act act-main" onClick={() => void navigate(`/shelf/${kind}/new`)}>
              New {kind.slice(0, -1)}
            </button>
          )}
        </div>
        <nav aria-label="Shelf" className="mb-3 flex flex-wrap gap-x-6 border-b border-ink">
          {KINDS.map(([id, word]) => (
            <NavLink
              key={id}
              to={`/shelf/${id}`}
              className={({ isActive }) =>
                `flex min-h-11 min-w-11 items-end pb-1.5 text-base ${isActive || (id === 'blanks' && kind === 'blanks') ? 'border-b-4 border-blue font-bold' : 'text-blue'}`
              }
            >
              {word}
            </NavLink>
          ))}
        </nav>
        <List />
        {kind !== 'alphabets' && <PutAwayList kind={kind as AwayKind} />}
      </main>
      {adding && <BlankForm blank={null} onClose={() => setAdding(false)} />}
    </div>
  );
};
