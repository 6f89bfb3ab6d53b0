import type { HoldSettings } from '@bistre/core';
import { Select } from '../../parts/fields';

/** Where the first piece goes: the corner from which places are filled. */
export const CornerSelect = ({
  label,
  hold,
  update,
}: {
  label: string;
  hold: HoldSettings;
  update: (part: Partial<HoldSettings>) => void;
}) => (
  <Select
    label={label}
    value={hold.order.corner}
    options={[
      ['back-left', 'back left'],
      ['back-right', 'back right'],
      ['front-left', 'front left'],
      ['front-right', 'front right'],
    ]}
    onChange={(corner) => update({ order: { ...hold.order, corner: corner as HoldSettings['order']['corner'] } })}
  />
);
