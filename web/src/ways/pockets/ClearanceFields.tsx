import type { Clearance } from '@bistre/core';
import { Choice, Field, usePart } from '../../parts/fields';

/** How much larger a pocket is than the largest piece: a school, or one's own number. */
export const ClearanceFields = () => {
  const [clearance, put] = usePart<Clearance>('clearance');
  return (
    <div className="col-span-2 flex items-end gap-3">
      <Choice
        label="Clearance in total (loose is the default: pieces drop in by themselves)"
        value={clearance.school}
        options={[
          ['loose', 'loose 1.0'],
          ['snug', 'snug 0.5'],
          ['own', 'own'],
        ]}
        onChange={(school) => put(school === 'own' ? { school, total: 0.7 } : { school })}
      />
      {clearance.school === 'own' && (
        <div className="w-28">
          <Field at="clearance.total" label="own" />
        </div>
      )}
    </div>
  );
};
