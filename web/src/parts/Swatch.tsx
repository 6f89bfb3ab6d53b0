/** The colour of a style of a file, as it fills or as it draws. */
export const Swatch = ({ of, paint, name }: { of: 'fill' | 'stroke'; paint: string; name?: string | undefined }) => (
  <svg
    viewBox="0 0 28 18"
    className="inline h-[18px] w-7 align-middle"
    role="img"
    aria-label={name ?? `${of} ${paint}`}
  >
    <rect
      x="1"
      y="1"
      width="26"
      height="16"
      fill={of === 'fill' && paint.startsWith('#') ? paint : 'none'}
      className="stroke-rim"
    />
    {of === 'stroke' && <line x1="4" y1="9" x2="24" y2="9" stroke={paint} strokeWidth="3" />}
  </svg>
);
