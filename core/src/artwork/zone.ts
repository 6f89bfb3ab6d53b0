import type { Zone } from '../holding';
import type { Mm } from '../units';

/** What a zone has room for, its margins taken off, mm. */
export const zoneRoom = (zone: Zone): { width: Mm; height: Mm } => ({
  width: zone.width - 2 * zone.margin,
  height: zone.height - 2 * zone.margin,
});
