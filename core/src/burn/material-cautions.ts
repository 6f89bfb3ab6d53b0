/** What a material asks for: it is never burned, its fumes are taken away, it is washed before food, it may shatter. */
export type CautionKind = 'never' | 'fumes' | 'wash' | 'shatters' | 'flares';

export interface MaterialCaution {
  readonly kind: CautionKind;
  readonly says: string;
  /** What it rests on. */
  readonly basis: string;
}

const SHEET = 'safety data sheet, sections 5 and 10: what it gives off when it burns or breaks down';
const PRACTICE = 'common practice in the trade';

/**
 * Materials by a word of their name. Short on purpose: what is not here is not harmless, and its safety sheet is read all
 * the same. A shop adds to it by steps of its own for a material; nothing takes from it.
 */
const TABLE: readonly (readonly [RegExp, CautionKind, string, string])[] = [
  [/\bpvc\b(?!-free)|vinyl(?! alcohol)|polyvinyl chloride|leatherette/i, 'never', 'It holds chlorine, which leaves as hydrogen chloride: poison for people, rust for the machine.', SHEET], // prettier-ignore
  [/\bptfe\b|teflon|fluoropolymer|\bpvdf\b|\bfep\b/i, 'never', 'It holds fluorine, which leaves as hydrogen fluoride and worse.', SHEET], // prettier-ignore
  [/chrome[- ]tanned/i, 'never', 'Its chromium may leave as chromates. Vegetable-tanned leather is burned in its place.', SHEET], // prettier-ignore
  [/beryllium/i, 'never', 'Its dust harms lungs for good.', SHEET],
  [/\babs\b/i, 'fumes', 'It gives off styrene and hydrogen cyanide, and melts rather than marks.', SHEET],
  [/polycarbonate/i, 'flares', 'It discolours and takes fire before it is cut.', PRACTICE],
  [/galvani[sz]ed|zinc/i, 'fumes', 'Zinc leaves as fume that makes ill for a day.', SHEET],
  [
    /carbon fib|glass[- ]fib|\bgrp\b|\bfr-?4\b/i,
    'fumes',
    'Its fibres fly and its resin gives off poison: ask its maker first.',
    SHEET,
  ],
  [
    /acrylic|\bpmma\b/i,
    'flares',
    'Its vapour burns with a quiet flame over the cut: never left alone, air on.',
    PRACTICE,
  ],
  [/mdf|hardboard|plywood|\bply\b|larch|oak|birch|cherry|alder|wood|bamboo|cork/i, 'fumes', 'Smoke of wood and glue: extraction on, edges looked at for glow before it is laid away.', SHEET], // prettier-ignore
  [
    /rubber|leather|paint|powder[- ]coat|lacquer|coated/i,
    'fumes',
    'What it is coated or filled with decides what it gives off: read its sheet.',
    SHEET,
  ],
  [/compound/i, 'wash', 'What is left of the compound is washed off before it touches food.', 'maker’s instructions of marking compounds'], // prettier-ignore
  [/tempered|toughened/i, 'never', 'Its tension is let go at once: it bursts.', PRACTICE],
  [/glass|crystal|ceramic|porcelain|tile/i, 'shatters', 'It may crack or chip: eyewear and gloves, and it cools before it is washed.', PRACTICE], // prettier-ignore
  [/slate|stone|marble|granite/i, 'shatters', 'Flakes may fly off layers and wet places: dry, eyewear on.', PRACTICE],
];

/** What is known of a material by its name, the gravest first; empty for what nobody named here. */
export const materialCautions = (material: string | null | undefined): MaterialCaution[] =>
  TABLE.flatMap(([word, kind, says, basis]) => (material && word.test(material) ? [{ kind, says, basis }] : [])).sort(
    (a, b) => Number(b.kind === 'never') - Number(a.kind === 'never'),
  );

/** Why a material is never burned; null where nothing here forbids it. */
export const neverBurned = (material: string | null | undefined): string | null => {
  const found = materialCautions(material).find((c) => c.kind === 'never');
  return found ? `${material} is never burned. ${found.says} (${found.basis})` : null;
};
