import type { z } from 'zod';
import { fieldAt, type NumberField } from '@bistre/contract';
import { NumberInput, type NumberInputProps } from './NumberInput';

/**
 * One number that a call takes, by its place in the contract: read off a tape, a caliper or the bench, and handed on.
 * @example <Measure of={api.takeRing.body} at="overlap" list label="the line overlaps by" onCommit={take} />
 */
export const Measure = ({
  of,
  at,
  value = null,
  onCommit,
  ...look
}: Omit<NumberInputProps, 'field' | 'value' | 'onCommit'> & {
  of: z.ZodType;
  at: string;
  value?: number | null;
  onCommit: (value: number) => void;
}) => (
  <NumberInput
    {...look}
    field={fieldAt(of, at, {}) as NumberField}
    value={value}
    onCommit={(number) => {
      if (number !== null) onCommit(number);
    }}
  />
);
