declare const unit: unique symbol;

/**
 * A number with a unit. A bare number may become any of them, but a length never passes for an
 * angle: the optional tag keeps the kinds apart without wrapping every literal.
 */
export type Tagged<U extends string> = number & { readonly [unit]?: U };

export type Mm = Tagged<'mm'>;
export type Rad = Tagged<'rad'>;
export type Seconds = Tagged<'s'>;
export type Minutes = Tagged<'min'>;
export type MmPerS = Tagged<'mm/s'>;
export type MmPerS2 = Tagged<'mm/s2'>;
export type Watt = Tagged<'W'>;
/** A share between 0 and 1. */
export type Share = Tagged<'share'>;

/** One inch, exactly [international yard and pound agreement, 1959]. */
export const MM_PER_INCH = 25.4;
