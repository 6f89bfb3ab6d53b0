import { useMemo, type ReactNode } from 'react';
import type { FieldValues } from 'react-hook-form';
import type { z } from 'zod';
import { choiceOf, findingsOf, setupSections } from '@bistre/contract';
import type { WayId } from '@bistre/core';
import type { BatchHandle } from '../data/use-batch';
import { LiveFields } from '../parts/fields';
import { besideOf, heldIn } from './held';

type Schema = z.ZodType<FieldValues, FieldValues>;

interface Of<K extends WayId> {
  handle: BatchHandle;
  way: K;
  /** What is large and no field shows: left out of what is compared and checked with every key. */
  without?: string;
  children: ReactNode;
}

const omitted = (value: object, key: string): FieldValues => {
  const { [key]: _left, ...rest } = value as FieldValues;
  return rest;
};

/** Fields of what is decided of a way: `<ChoiceFields handle={handle} way="fence"><Field at="pushRoom" />…`. */
export const ChoiceFields = <K extends WayId>({ handle, way, without, children }: Of<K>) => {
  const { choice, put } = heldIn(handle, way);
  const whole = choiceOf(way);
  const schema = useMemo(
    () => (without ? (whole as z.ZodObject).omit({ [without]: true } as never) : whole) as unknown as Schema,
    [whole, without],
  );
  const value = without ? omitted(choice, without) : choice;
  return (
    <LiveFields schema={schema} value={value} onChange={put as (value: FieldValues) => void}>
      {children}
    </LiveFields>
  );
};

/** Fields of what was seen of a way at the bench. */
export const FoundFields = <K extends WayId>({ handle, way, children }: Of<K>) => {
  const { found, note } = heldIn(handle, way);
  return (
    <LiveFields
      schema={findingsOf(way) as unknown as Schema}
      value={found}
      onChange={note as (value: FieldValues) => void}
    >
      {children}
    </LiveFields>
  );
};

/** Fields of what stands beside any way: pins, a stand, tall things, how far the work is bowed. */
export const BesideFields = ({ handle, children }: { handle: BatchHandle; children: ReactNode }) => {
  const { beside, put } = besideOf(handle);
  return (
    <LiveFields
      schema={setupSections.beside as unknown as Schema}
      value={beside as unknown as FieldValues}
      onChange={put as (value: FieldValues) => void}
    >
      {children}
    </LiveFields>
  );
};
