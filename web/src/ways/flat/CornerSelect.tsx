import type { FillOrder } from '@bistre/core';
import { Select } from '../../parts/fields';

/** Where the first piece goes: the corner from which places are filled. */
export const CornerSelect = ({
  label,
  order,
  onChange,
}: {
  label: string;
  order: FillOrder;
  onChange: (order: FillOrder) => void;
}) => (
  <Select
    label={label}
    value={order.corner}
    options={[
      ['back-left', 'back left'],
      ['back-right', 'back right'],
      ['front-left', 'front left'],
      ['front-right', 'front right'],
    ]}
    onChange={(corner) => onChange({ ...order, corner: corner as FillOrder['corner'] })}
  />
);
