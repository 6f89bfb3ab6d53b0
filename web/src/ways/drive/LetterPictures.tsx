import { letterFAs, ORIENTATIONS, orientationWords, type Orientation } from '@bistre/core';

/** The F as it came out, one of eight; picking one is the answer. */
export const LetterPictures = ({
  picked,
  onPick,
  large = false,
}: {
  picked: Orientation | null;
  onPick: (o: Orientation) => void;
  large?: boolean;
}) => (
  <div
    className={large ? 'grid max-w-2xl grid-cols-8 gap-1.5 max-[700px]:grid-cols-4' : 'grid grid-cols-4 gap-2'}
    role="group"
    aria-label="Which picture looks like the F?"
  >
    {ORIENTATIONS.map((o) => {
      const here = picked?.quarters === o.quarters && picked.mirrored === o.mirrored;
      const words = orientationWords(o);
      return (
        <button
          key={words}
          className={`border px-1 pt-1 pb-0.5 text-center ${here ? 'border-2 border-blue' : 'border-rim'} min-h-16`}
          aria-label={`F ${words}`}
          aria-pressed={here}
          onClick={() => onPick(o)}
        >
          <svg viewBox="-10 -10 20 20" className={large ? 'mx-auto h-14' : 'mx-auto h-10'} aria-hidden>
            <g transform="scale(1 -1)" className="fill-none stroke-ink" strokeWidth={2.2} strokeLinejoin="miter">
              {letterFAs(o).map((line, i) => (
                <polyline key={i} points={line.map((p) => `${p.x},${p.y}`).join(' ')} />
              ))}
            </g>
          </svg>
          {!large && <span className="text-[11px] leading-tight text-soft">{words}</span>}
        </button>
      );
    })}
  </div>
);
