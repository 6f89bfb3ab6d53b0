/** How work comes to the bench: what of it decides which ways of holding are worth a thought. */
export const COMES = {
  loose: 'loose pieces, blank',
  printed: 'printed sheets, the pieces cut out of them',
  sheet: 'blank sheets or strips, the pieces cut out of them',
  marked: 'pieces with marks of their own, drilled or printed',
  long: 'long work, longer than the bed',
  round: 'round: cups, glasses, bars',
} as const;
export type Comes = keyof typeof COMES;
