import type { Clearance } from '@bistre/core';
import { Choice, MeasureField } from '../../parts/fields';

/** How much larger a pocket is than the largest piece: a school, or one's own number. */
export const ClearanceFields = ({
  clearance,
  onChange,
}: {
  clearance: Clearance;
  onChange: (clearance: Clearance) => void;
}) => (
  <div className="col-span-2 flex items-end gap-3">
    <Choice
      label="Clearance in total (loose is the default: pieces drop in by themselves)"
      value={clearance.school}
      options={[
        ['loose', 'loose 1.0'],
        ['snug', 'snug 0.5'],
        ['own', 'own'],
      ]}
      onChange={(school) => onChange(school === 'own' ? { school, total: 0.7 } : { school })}
    />
    {clearance.school === 'own' && (
      <div className="w-28">
        <MeasureField
          label="own"
          value={clearance.total}
          min={0}
          max={20}
          onCommit={(total) => onChange({ school: 'own', total })}
        />
      </div>
    )}
  </div>
);
