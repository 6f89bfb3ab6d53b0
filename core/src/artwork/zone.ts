import type { Box } from '../geometry';
import type { Rect, Zone } from '../holding';
import type { Mm } from '../units';

/** What a zone has room for, its margins taken off, mm. */
export const zoneRoom = (zone: Zone): { width: Mm; height: Mm } => ({
  width: zone.width - 2 * zone.margin,
  height: zone.height - 2 * zone.margin,
});

/** The box of a rectangle that is given by its middle. */
export const rectBox = (r: Rect): Box => ({
  minX: r.x - r.width / 2,
  minY: r.y - r.height / 2,
  maxX: r.x + r.width / 2,
  maxY: r.y + r.height / 2,
});

/** Where a keep-out of a zone lies, blank frame: it is given from the zone's middle. */
export const keepOutBox = (zone: Zone, k: Rect): Box => rectBox({ ...k, x: k.x + zone.x, y: k.y + zone.y });
