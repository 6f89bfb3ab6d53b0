import { useId, useState } from 'react';
import type { Result } from '@bistre/core';
import { Finding } from './Part';

/** A table typed or pasted as text: taken whole, or named by line what is wrong; what is typed survives a reload. */
export const TableBox = <T,>({
  draft,
  label,
  example,
  read,
  onRead,
}: {
  draft: string;
  label: string;
  example: string;
  read: (text: string) => Result<T>;
  onRead: (value: T) => void;
}) => {
  const id = useId();
  const key = `bistre.table.${draft}`;
  const [text, setText] = useState(() => sessionStorage.getItem(key) ?? '');
  const [problem, setProblem] = useState<string | null>(null);
  const take = (): void => {
    const made = read(text);
    if (!made.ok) {
      setProblem(made.problem.message);
      return;
    }
    setProblem(null);
    sessionStorage.removeItem(key);
    setText('');
    onRead(made.value);
  };
  return (
    <div className="mt-2">
      <label htmlFor={id} className="block text-[13px] text-soft">
        {label}
      </label>
      <textarea
        id={id}
        className="field h-24 w-full py-1"
        placeholder={example}
        value={text}
        maxLength={20_000}
        onChange={(e) => {
          setText(e.target.value);
          sessionStorage.setItem(key, e.target.value);
        }}
      />
      {problem && <Finding tone="out">{problem}</Finding>}
      <button className="act mt-1" disabled={text.trim() === ''} onClick={take}>
        Take the table
      </button>
    </div>
  );
};
