/** Fractions of a unit as written, shortest form: `''`, `'.001'`, … `'.5'`. */
const fractions = (unit: number, decimals: number): string[] =>
  Array.from({ length: unit }, (_, i) => (i === 0 ? '' : `.${String(i).padStart(decimals, '0').replace(/0+$/, '')}`));

/**
 * Shortest fixed-point writing of a whole number of units of the last decimal: 12500 → `12.5` for
 * three decimals. Several times as fast as String.
 * @param decimals 1 to 4
 */
export const fixedPointWriter = (decimals: number): ((units: number) => string) => {
  const unit = 10 ** decimals;
  const tails = fractions(unit, decimals);
  return (units) => {
    if (units < 0) {
      const whole = Math.floor(-units / unit);
      return `-${whole}${tails[-units - whole * unit]!}`;
    }
    const whole = Math.floor(units / unit);
    return `${whole}${tails[units - whole * unit]!}`;
  };
};
