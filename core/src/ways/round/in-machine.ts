import { accelerationSetting, type ControlNumber, type Drive } from '../../drive';
import type { BatchInput } from '../../setup';
import type { MmPerS2 } from '../../units';
import { driveOf } from './settings';

/** Whether this batch changed a setting of the machine and put it back again. */
const wasPutBack = ({ putbacks }: BatchInput, setting: string): boolean => {
  const changed = putbacks.filter((p) => p.setting === setting);
  return changed.length > 0 && changed.every((p) => p.restoredAt !== null);
};

/** What another batch left a setting at, after this one touched it. */
const leftAt = ({ elsewhere }: BatchInput, setting: string): string | undefined =>
  elsewhere.find((e) => e.setting === setting)?.now;

/** What this batch has in the machine for its drive; null while nobody typed it in, and once it was put back. */
export const numberIn = (input: BatchInput, { where }: Pick<ControlNumber, 'where'>): number | null =>
  wasPutBack(input, where) || leftAt(input, where) !== undefined ? null : driveOf(input).numberSet;

/**
 * What the turning axis's acceleration stands at, mm/s²: as this batch lowered it, as another left it since, or the
 * drive's own once it was put back.
 */
export const accelerationIn = (input: BatchInput, drive: Drive): MmPerS2 => {
  const setting = accelerationSetting(drive);
  const left = leftAt(input, setting);
  if (left !== undefined) return Number.isFinite(Number(left)) ? Number(left) : drive.axisAcceleration;
  return (wasPutBack(input, setting) ? null : driveOf(input).accelerationSet) ?? drive.axisAcceleration;
};
