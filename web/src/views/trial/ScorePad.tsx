import type { ScoreRow, TrialDocument } from '@bistre/contract';
import { CUT_STATES, isPushed, type Tell } from '@bistre/core';

/** What one touch says of a cell. */
export interface Said {
  readonly grade: number;
  readonly tell: Tell;
}

/** Grades that each word goes with: what is nearly as wanted is right, what is useless is too weak or too strong. */
const ROWS: readonly (readonly [Tell, string, readonly number[]])[] = [
  ['strong', 'too strong', [0, 1, 2, 3, 4, 5, 6]],
  ['right', 'right', [4, 5, 6, 7, 8, 9, 10]],
  ['weak', 'too weak', [0, 1, 2, 3, 4, 5, 6]],
];

/** One touch scores the cell that is chosen: how good it is, and which way it fails. */
export const ScorePad = ({
  trial,
  mine,
  onSay,
}: {
  trial: TrialDocument;
  /** What the one at the bench said of the chosen cell before. */
  mine: ScoreRow | undefined;
  onSay: (said: Said) => void;
}) => {
  const key = 'min-h-14 border border-blue px-1 text-xl font-bold text-blue aria-pressed:bg-blue aria-pressed:text-on-blue'; // prettier-ignore
  if (isPushed(trial.spec.effect))
    return (
      <div className="grid grid-cols-2 gap-2" role="group" aria-label="How it came out">
        {CUT_STATES.map((s) => (
          <button
            key={s.id}
            className={key}
            aria-pressed={mine?.grade === s.grade && mine.tell === s.tell}
            onClick={() => onSay({ grade: s.grade, tell: s.tell })}
          >
            {s.id}
          </button>
        ))}
      </div>
    );
  return (
    <div className="grid gap-2">
      {ROWS.map(([tell, words, grades]) => (
        <div key={tell} role="group" aria-label={words}>
          <p className="text-[13px] text-soft">{words}</p>
          <div className="grid grid-cols-7 gap-1">
            {grades.map((grade) => (
              <button
                key={grade}
                className={key}
                aria-label={`${grade} of 10, ${words}`}
                aria-pressed={mine?.grade === grade && mine.tell === tell}
                onClick={() => onSay({ grade, tell })}
              >
                {grade}
              </button>
            ))}
          </div>
        </div>
      ))}
      <p className="text-[13px] text-soft">0 is useless, 7 would be taken, 10 is as wanted.</p>
    </div>
  );
};
