import { MM_PER_INCH, type Mm, type Seconds, type Minutes } from './brands';

/** Millimetres and inches side by side, as every length field shows them. @example '60.00 mm = 2.3622 in' */
export const bothUnits = (mm: Mm): string => `${mm.toFixed(2)} mm = ${(mm / MM_PER_INCH).toFixed(4)} in`;

/** A duration for people. @example duration(3725) // '1 h 02 min' */
export const duration = (seconds: Seconds): string => {
  if (seconds < 60) return `${seconds < 10 ? seconds.toFixed(1) : Math.round(seconds)} s`;
  const minutes = Math.round(seconds / 60);
  if (minutes < 60) {
    const whole = Math.floor(seconds / 60);
    const rest = Math.round(seconds - whole * 60);
    return rest === 60 ? `${whole + 1} min` : `${whole} min ${String(rest).padStart(2, '0')} s`;
  }
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;
};

/** An estimate for people, no finer than it is. @example roughly(95) // '1.6 h' */
export const roughly = (minutes: Minutes): string =>
  minutes < 90 ? `${Math.max(1, Math.round(minutes))} min` : `${(minutes / 60).toFixed(minutes < 600 ? 1 : 0)} h`;
