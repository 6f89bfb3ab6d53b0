import type { Machine } from './machine';
/** What is changed on a machine that its calibrations depend on. */
export const MACHINE_PARTS = ['lens', 'tube', 'mirrors', 'belts', 'bed', 'other'] as const;
export type MachinePart = (typeof MACHINE_PARTS)[number];

/** What was done, as the Log and pages say it. */
export const PART_WORDS: Readonly<Record<MachinePart, string>> = {
  lens: 'lens changed',
  tube: 'tube or source changed',
  mirrors: 'mirrors aligned',
  belts: 'belts changed or tightened',
  bed: 'bed levelled',
  other: 'something else',
};

/** Something that was changed on a machine, and when. */
export interface MachineChange {
  readonly what: MachinePart;
  readonly note: string;
  /** ISO 8601. */
  readonly at: string;
}

/** What of a machine was measured, and when. */
export interface Measurements {
  readonly pointerOffset: { readonly measuredAt: string } | null;
  readonly kerfMeasuredAt: string | null;
  readonly square?: { readonly measuredAt: string } | null | undefined;
}

/** A calibration that was measured before something that it depends on was changed. */
export interface Overtaken {
  readonly what: 'pointer offset' | 'kerf' | 'own axes';
  readonly measuredAt: string;
  readonly change: MachineChange;
}

/**
 * What each calibration depends on [common practice]: where the beam falls, on all that it goes through; how wide it
 * cuts, on the same; how far an axis goes, on its belts.
 */
const DEPENDS: Readonly<Record<Overtaken['what'], readonly MachinePart[]>> = {
  'pointer offset': ['lens', 'tube', 'mirrors'],
  kerf: ['lens', 'tube', 'mirrors'],
  'own axes': ['belts'],
};

/**
 * Calibrations of a machine that say nothing certain any more, each with the first change that overtook it.
 * @example overtakenOf({ pointerOffset: { measuredAt: '2026-11-01' }, … }, [{ what: 'lens', at: '2026-11-10', … }]) // pointer offset, …
 */
export const overtakenOf = (of: Measurements, changes: readonly MachineChange[]): readonly Overtaken[] => {
  const when: Readonly<Record<Overtaken['what'], string | null | undefined>> = {
    'pointer offset': of.pointerOffset?.measuredAt,
    kerf: of.kerfMeasuredAt,
    'own axes': of.square?.measuredAt,
  };
  const inTurn = [...changes].sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
  return (Object.keys(DEPENDS) as Overtaken['what'][]).flatMap((what) => {
    const measuredAt = when[what];
    if (!measuredAt) return [];
    const change = inTurn.find((c) => DEPENDS[what].includes(c.what) && Date.parse(c.at) > Date.parse(measuredAt));
    return change ? [{ what, measuredAt, change }] : [];
  });
};

/** What a burn’s energy and spot depend on. */
const BURN_DEPENDS: readonly MachinePart[] = ['lens', 'tube', 'mirrors'];

/** The first thing that was changed on a machine after a time and on which a proved burn depends; null for none. */
export const burnOvertakenBy = (provedAt: string, changes: readonly MachineChange[]): MachineChange | null =>
  [...changes]
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
    .find((c) => BURN_DEPENDS.includes(c.what) && Date.parse(c.at) > Date.parse(provedAt)) ?? null;

/** What of a part a calibration is older than. */
export const SINCE: Readonly<Record<MachinePart, string>> = {
  lens: 'the lens was changed',
  tube: 'the tube or source was changed',
  mirrors: 'the mirrors were aligned',
  belts: 'the belts were changed or tightened',
  bed: 'the bed was levelled',
  other: 'something was changed',
};

/** The same in a sentence. */
export const overtakenWords = ({ what, change }: Overtaken): string => {
  const [are, them] = what === 'own axes' ? ['were', 'them'] : ['was', 'it'];
  return `The ${what} ${are} measured before ${SINCE[change.what]} on ${change.at.slice(0, 10)}: measure ${them} again.`;
};

/** Whether a proof is older than its machine's rule lets it be, in words; null while it is not. */
export const outlived = (provedAt: string, now: Date, { proofDays }: Pick<Machine, 'proofDays'>): string | null => {
  if (!proofDays) return null;
  const days = Math.floor((now.getTime() - Date.parse(provedAt)) / 86_400_000);
  return days >= proofDays ? `it is ${days} days old; here a proof holds for ${proofDays}` : null;
};
