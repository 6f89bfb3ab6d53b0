import type { BlankSpec } from '@bistre/contract';
import { checkProfile, freshCup } from '@bistre/core';
import { MeasureField, Select, Tick } from '../../parts/fields';
import { Finding } from '../../parts/Part';

type Round = Extract<BlankSpec['shape'], { kind: 'round' }>;

export const FRESH_ROUND: Round = { ...freshCup, profile: freshCup.profile.map((p) => ({ ...p })) };

/** A zone to begin with: the middle of the side, away from the feature. */
export const ROUND_ZONES: BlankSpec['zones'] = [
  {
    id: 'face',
    name: 'face',
    x: 75,
    y: 0,
    width: 50,
    height: 70,
    margin: 2,
    across: 'centre',
    down: 'middle',
    keepOuts: [],
    angle: Math.PI / 2,
  },
];

/** A round blank: diameters along its length, walls, and what angles are counted from. */
export const RoundFields = ({ shape, onChange }: { shape: Round; onChange: (shape: Round) => void }) => {
  const set = (part: Partial<Round>): void => onChange({ ...shape, ...part });
  const checked = checkProfile(shape.profile);
  const { feature } = shape;
  return (
    <>
      <p className="text-[13px] text-soft">Profile: place from the rim, and the diameter there; rim first, base last</p>
      {shape.profile.map((p, i) => {
        const change = (part: Partial<typeof p>): void =>
          set({ profile: shape.profile.map((q, k) => (k === i ? { ...q, ...part } : q)) });
        return (
          <div key={i} className="grid grid-cols-[1fr_1fr_2rem] items-end gap-2">
            <MeasureField
              hideLabel
              label={`place ${i + 1} from the rim`}
              value={p.at}
              min={0}
              max={5000}
              onCommit={(at) => change({ at })}
            />
            <MeasureField
              hideLabel
              label={`diameter ${i + 1}`}
              value={p.diameter}
              min={1}
              max={1000}
              onCommit={(diameter) => change({ diameter })}
            />
            {shape.profile.length > 2 && (
              <button
                type="button"
                className="pb-2 text-blue"
                aria-label={`Take out place ${i + 1}`}
                onClick={() => set({ profile: shape.profile.filter((_, k) => k !== i) })}
              >
                ✕
              </button>
            )}
          </div>
        );
      })}
      {!checked.ok && <Finding tone="out">{checked.problem.message}</Finding>}
      <button
        type="button"
        className="link"
        onClick={() => {
          const last = shape.profile[shape.profile.length - 1]!;
          set({ profile: [...shape.profile, { at: last.at + 20, diameter: last.diameter }] });
        }}
      >
        add a place
      </button>
      <div className="grid grid-cols-3 gap-2">
        <Select
          label="material"
          value={shape.material}
          options={(['steel', 'aluminium', 'glass', 'wood', 'plastic'] as const).map((m) => [m, m] as const)}
          onChange={(material) => set({ material: material as Round['material'] })}
        />
        <MeasureField label="wall" value={shape.wall} min={0.05} max={500} onCommit={(wall) => set({ wall })} />
        <MeasureField
          kind="number"
          unit="l"
          label="stated capacity"
          value={shape.capacity}
          min={0.001}
          max={500}
          onCommit={(capacity) => set({ capacity })}
        />
        <Select
          label="angles from"
          value={feature?.kind ?? ''}
          options={[
            ['', 'nothing: it is alike all round'],
            ['handle', 'handle'],
            ['existing logo', 'existing logo'],
            ['seam weld', 'seam weld'],
          ]}
          onChange={(kind) =>
            set({
              feature:
                kind === ''
                  ? null
                  : {
                      kind: kind as 'handle',
                      reach: kind === 'handle' ? 35 : 0,
                      from: 20,
                      to: 100,
                      mass: kind === 'handle' ? 0.04 : 0,
                    },
            })
          }
        />
        <Tick label="has a lid" checked={shape.lid} onChange={(lid) => set({ lid })} />
        <Tick label="filled" checked={shape.filled} onChange={(filled) => set({ filled })} />
      </div>
      {feature?.kind === 'handle' && (
        <div className="grid grid-cols-4 gap-2">
          <MeasureField
            label="reach"
            value={feature.reach}
            min={0}
            max={500}
            onCommit={(reach) => set({ feature: { ...feature, reach } })}
          />
          <MeasureField
            label="from"
            value={feature.from}
            min={0}
            max={5000}
            onCommit={(from) => set({ feature: { ...feature, from } })}
          />
          <MeasureField
            label="to"
            value={feature.to}
            min={0}
            max={5000}
            onCommit={(to) => set({ feature: { ...feature, to } })}
          />
          <MeasureField
            kind="number"
            unit="kg"
            label="mass"
            value={feature.mass}
            min={0}
            max={50}
            onCommit={(mass) => set({ feature: { ...feature, mass } })}
          />
        </div>
      )}
    </>
  );
};
