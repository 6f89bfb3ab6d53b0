import type { BlankSpec } from '@bistre/contract';
import { checkProfile, freshCup, MOST_POINTS } from '@bistre/core';
import { Field, FieldList, Fields, Select, usePart } from '../../parts/fields';
import { Finding } from '../../parts/Part';
import { freshZone } from './fresh';

type Round = Extract<BlankSpec['shape'], { kind: 'round' }>;

export const FRESH_ROUND: Round = { ...freshCup, profile: freshCup.profile.map((p) => ({ ...p })) };

/** A zone to begin with: the middle of the side, away from the feature. */
export const ROUND_ZONES: BlankSpec['zones'] = [{ ...freshZone(50, 70), x: 75, margin: 2, angle: Math.PI / 2 }];

type Feature = Round['feature'];

/** What angles are counted from; a handle has a size and a mass as well. */
const FeatureFields = () => {
  const [feature, put] = usePart<Feature>('feature');
  return (
    <>
      <div className="col-span-3">
        <Select
          label="Angles from"
          value={feature?.kind ?? ''}
          options={[
            ['', 'nothing: it is alike all round'],
            ['handle', 'handle'],
            ['existing logo', 'existing logo'],
            ['seam weld', 'seam weld'],
          ]}
          onChange={(kind) => {
            const handle = kind === 'handle';
            put(
              kind === ''
                ? null
                : { kind: kind as 'handle', reach: handle ? 35 : 0, from: 20, to: 100, mass: handle ? 0.04 : 0 },
            );
          }}
        />
      </div>
      {feature?.kind === 'handle' && (
        <div className="col-span-3 grid grid-cols-4 gap-2">
          <Fields at="feature.reach feature.from feature.to feature.mass" />
        </div>
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
        className="grid grid-cols-[1fr_1fr_2.2rem] items-start gap-2"
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
