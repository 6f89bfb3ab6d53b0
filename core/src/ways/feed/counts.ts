import { windowLength, type Feeder, type StripLayout } from '../../feeder';
import type { Mm, Seconds } from '../../units';
import { fixed, mm, worked, type WorkedLine } from '../../working';

/** What a strip's counts are made of. */
export interface CountedStrip {
  readonly feeder: Feeder | null;
  readonly size: { readonly length: Mm; readonly width: Mm };
  readonly layout: StripLayout | null;
  readonly stops: readonly { readonly from: Mm; readonly to: Mm; readonly count: number; readonly command: Mm }[];
  readonly strips: number;
  readonly quantity: number;
  readonly feeding: Seconds;
}

/** Working of how many stops and strips there are, what is lost at the ends, and how long feeding takes. */
export const countStrip = ({ feeder, size, layout, stops, strips, quantity, feeding }: CountedStrip): WorkedLine[] => {
  if (!feeder || stops.length === 0) return [];
  const longest = Math.max(...stops.map((s) => s.to - s.from));
  const travel = stops.reduce((s, x) => s + Math.abs(x.command), 0);
  return [
    worked(
      'stops',
      layout ? 'as many columns at a time as the window holds' : 'segments no longer than the window',
      `window ${fixed(windowLength(feeder), 0)}, longest stretch ${fixed(longest, 0)}${layout ? `, pitch ${fixed(layout.pitch)}` : ''}`,
      `${stops.length}: ${stops
        .slice(0, 12)
        .map((s) => s.count)
        .join(' + ')}${stops.length > 12 ? ' …' : ''}`,
      'geometry',
    ),
    ...(layout
      ? [
          worked(
            'strips',
            '⌈pieces still to be burned / places⌉, the one that is in counted by what is left of it',
            `${quantity} pieces, ${layout.places.length} places`,
            String(strips),
            'geometry',
          ),
          worked(
            'lost at the leading end',
            'dead band, or up to the first piece',
            `dead band ${fixed(feeder.deadFront, 0)}`,
            mm(layout.lostFront, 1),
            'geometry',
          ),
          worked(
            'lost at the trailing end',
            'strip − end of the last piece: dead band and what no further piece fits into',
            `${fixed(size.length, 0)} − ${fixed(size.length - layout.lostBack, 1)}, dead band ${fixed(feeder.deadBack, 0)}`,
            mm(layout.lostBack, 1),
            'geometry',
          ),
          worked(
            'becomes pieces',
            'places × piece’s box / strip',
            `${layout.places.length} places on ${fixed(size.length, 0)} × ${fixed(size.width, 0)}`,
            `${(100 * layout.filled).toFixed(1)} %`,
            'geometry',
          ),
        ]
      : []),
    worked(
      'feeding',
      '(Σ |feeds| / speed + stops × settling) × strips',
      `(${fixed(travel, 0)} / ${fixed(feeder.speed, 0)} + ${stops.length} × ${fixed(feeder.settle, 1)}) × ${Math.max(1, strips)}`,
      `${fixed(feeding, 0)} s`,
      'geometry',
    ),
  ];
};
