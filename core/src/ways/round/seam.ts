import { effectiveDof, UNCALIBRATED } from '../../budget';
import { RING_REPEAT, type ControlNumber, type Drive, type RingResult, type Seam } from '../../drive';
import { nextPiece, studentQuantile, type GoverningSize } from '../../samples';
import type { OnDrive } from '../../setup';
import type { Mm } from '../../units';
import { fixed, mm, worked } from '../../working';

/**
 * How far the number that was typed may be from the one that is wanted now, as a share: half a thousandth of the
 * circumference is an eighth of a millimetre, less than a ring leaves. Further off, no piece is burned.
 */
const NUMBER_LEFT = 0.0005;

/** Whether the number that was typed in is near enough to the one that is wanted. */
export const numberStands = ({ value }: Pick<ControlNumber, 'value'>, numberSet: number | null): boolean =>
  value === null || (numberSet !== null && Math.abs(numberSet / value - 1) <= NUMBER_LEFT);

/**
 * What the number in the machine is off by when a piece is burned, as a share: its last place, or one that was typed
 * before the last ring and let stand.
 */
export const numberError = (control: ControlNumber, numberSet: number | null): number =>
  control.value === null || numberSet === null || !numberStands(control, numberSet)
    ? control.rounding
    : Math.max(control.rounding, Math.abs(numberSet / control.value - 1));

/**
 * How far art that goes round misses its beginning, with its 95 %. Rollers turn the same length under every piece, so
 * one that is ΔD larger misses by πΔD, and so does the setting by the piece that carried the ring; a chuck turns the
 * same angle. Without a ring, what the drive may be off by comes on top.
 */
export const seamOf = (
  { kind, gap: wanted }: Seam,
  drive: Drive,
  rings: RingResult,
  diameter: GoverningSize,
  circumference: Mm,
  number: number,
): OnDrive['seam'] => {
  const gap = kind === 'gapped' ? wanted : 0;
  const turned = drive.kind !== 'chuck';
  const parts = [
    { u: RING_REPEAT, dof: Infinity },
    { u: turned ? Math.PI * nextPiece(diameter) : 0, dof: diameter.dof },
    { u: (number * circumference) / Math.sqrt(3), dof: Infinity },
    ...(rings.rings > 0
      ? [
          { u: Math.sqrt(rings.uncertainty ** 2 - rings.ofPiece ** 2) * circumference, dof: Infinity },
          { u: rings.ofPiece * circumference, dof: diameter.dof },
        ]
      : []),
  ];
  const t = studentQuantile(0.975, effectiveDof(parts));
  const known = t * Math.hypot(...parts.map((p) => p.u));
  const off = rings.rings > 0 ? 0 : (turned ? UNCALIBRATED.rollers : UNCALIBRATED.chuck) * circumference;
  const spread = Math.hypot(known, off);
  return {
    gap,
    spread,
    working: [
      worked(
        'seam',
        kind === 'seamless' ? 'art one circumference wide' : 'gap left on purpose',
        mm(gap),
        `${mm(gap)} ± ${mm(spread)}`,
        rings.rings > 0 ? 'statistics' : 'common practice',
      ),
      worked(
        'its 95 %',
        `t × √(repeat² ${turned ? '+ (π × s)² ' : ''}+ (C × number)² / 3${rings.rings > 0 ? ' + (C × u ring)²' + (rings.ofPiece > 0 ? ' + (C × u piece)²' : '') : ''})`,
        `${fixed(t, 2)} × √(${parts
          .filter((p) => p.u > 0)
          .map((p) => `${fixed(p.u, 3)}²`)
          .join(' + ')})`,
        `± ${mm(known)}`,
        'statistics',
      ),
      ...(off > 0
        ? [worked('no ring yet', 'what the drive may be off by over one turn', `${fixed(off)}`, `± ${mm(off)}`, 'common practice')] // prettier-ignore
        : rings.working),
    ],
  };
};
