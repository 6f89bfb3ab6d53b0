import type { BlankSpec } from '@bistre/contract';
import { checkProfile, freshCup, MOST_POINTS, type OtherFeature } from '@bistre/core';
import { Field, FieldList, Fields, Select, usePart } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { freshZone } from './fresh';

type Round = Extract<BlankSpec['shape'], { kind: 'round' }>;

export const FRESH_ROUND: Round = { ...freshCup, feature: null, profile: freshCup.profile.map((p) => ({ ...p })) };

/** A zone to begin with: the middle of the side, away from the feature. */
export const ROUND_ZONES: BlankSpec['zones'] = [{ ...freshZone(50, 70), x: 75, margin: 2, angle: Math.PI / 2 }];

type Feature = Round['feature'];

const KINDS = [
  ['handle', 'handle'],
  ['existing logo', 'existing logo'],
  ['seam weld', 'seam weld'],
] as const;
const freshFeature = (kind: NonNullable<Feature>['kind']): Omit<NonNullable<Feature>, 'others'> => {
  const handle = kind === 'handle';
  return { kind, reach: handle ? 35 : 0, from: 20, to: 100, mass: handle ? 0.04 : 0 };
};

/** What angles are counted from, and whatever else is on the blank: art keeps off it, and what stands out is not turned into anything. */
const FeatureFields = () => {
  const [feature, put] = usePart<Feature>('feature');
  return (
    <>
      <div className="col-span-3">
        <Select
          label="Angles from"
          value={feature?.kind ?? ''}
          options={[['', 'nothing: it is alike all round'], ...KINDS]}
          onChange={(kind) =>
            put(kind === '' ? null : { ...freshFeature(kind as 'handle'), others: feature?.others ?? null })
          }
        />
      </div>
      {feature && (
        <>
          <div className="col-span-3 grid grid-cols-3 items-start gap-2">
            <Fields at="feature.from feature.to feature.width" />
            {feature.kind === 'handle' && <Fields at="feature.reach feature.mass" />}
          </div>
          <div className="col-span-3">
            <FieldList
              at="feature.others"
              one="thing on it"
              add={`add what else is on it, beside the ${feature.kind}`}
              most={8}
              fresh={() => ({ ...freshFeature('existing logo'), angle: Math.PI, width: 40 })}
              className="mb-2 grid grid-cols-[1fr_2.75rem] items-start gap-2"
              row={(_, { kind }: OtherFeature) => (
                <div className="grid grid-cols-3 items-start gap-2">
                  <Fields at="kind angle width from to" />
                  {kind === 'handle' && <Fields at="reach mass" />}
                </div>
              )}
            />
          </div>
        </>
      )}
    </>
  );
};

/** A round blank: diameters along its length, walls, and what angles are counted from. */
export const RoundFields = () => {
  const [profile] = usePart<Round['profile']>('profile');
  const checked = checkProfile(profile);
  return (
    <>
      <p className="text-[13px] text-soft">Profile: place from the rim, and the diameter there; rim first, base last</p>
      <FieldList
        at="profile"
        one="place"
        least={2}
        most={MOST_POINTS}
        fresh={(all: readonly Round['profile'][number][]) => {
          const { at, diameter } = all[all.length - 1]!;
          return { at: at + 20, diameter };
        }}
        className="grid grid-cols-[1fr_1fr_2.75rem] items-start gap-2"
        row={(i) => (
          <>
            <Field at="at" label={`Place ${i + 1} from the rim`} />
            <Field at="diameter" label={`Diameter ${i + 1}`} />
          </>
        )}
      />
      {!checked.ok && <Finding tone="out">{checked.problem.message}</Finding>}
      <div className="grid grid-cols-3 gap-2">
        <Fields at="material wall capacity lid filled" />
        <FeatureFields />
      </div>
    </>
  );
};
