import { useState } from 'react';
import { SCRAP_CAUSES } from '@bistre/core';
import { useHotkey } from '../../../parts/hotkeys';
import { DESK } from './look';

const NAMED = SCRAP_CAUSES.filter((c) => c !== 'other');

/** A cause by its number, from the keyboard. */
const CauseKey = ({ number, onPress }: { number: number; onPress: () => void }) => {
  useHotkey(String(number), onPress);
  return null;
};

/** Why a piece is scrapped: one touch, or its number; in words where none of them says it. */
export const Scrapping = ({ onCause, onLeave }: { onCause: (cause: string) => void; onLeave: () => void }) => {
  const [words, setWords] = useState('');
  useHotkey('Escape', onLeave);
  return (
    <div role="group" aria-label="Why it is scrapped" className="mt-2 flex flex-wrap items-center gap-2">
      {NAMED.map((cause, i) => (
        <span key={cause} className="contents">
          <CauseKey number={i + 1} onPress={() => onCause(cause)} />
          <button className={`${DESK} act-danger`} onClick={() => onCause(cause)}>
            <kbd aria-hidden className="font-normal">
              {i + 1}
            </kbd>{' '}
            {cause}
          </button>
        </span>
      ))}
      <form
        className="flex items-center gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (words.trim()) onCause(words.trim());
        }}
      >
        <input
          aria-label="in words"
          className="field !h-14 !w-56"
          placeholder="in words, then Enter"
          value={words}
          maxLength={80}
          onChange={(e) => setWords(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && onLeave()}
        />
      </form>
      <button className={DESK} onClick={onLeave}>
        Not scrapped
      </button>
    </div>
  );
};
