import { useState } from 'react';
import { operatorName, setOperatorName } from '../data/api';

/** Who is at the bench: everything that is kept is kept under this name. */
export const Operator = ({ large = false }: { large?: boolean }) => {
  const [name, setName] = useState(operatorName);
  return (
    <label className={`flex shrink-0 items-center gap-2 text-soft ${large ? 'text-lg' : ''}`}>
      <span className={large ? '' : 'max-[1100px]:sr-only'}>operator</span>
      <input
        className={`border-b border-rim bg-transparent text-ink ${large ? 'h-11 w-28' : 'h-11 w-20'}`}
        value={name}
        maxLength={40}
        onChange={(e) => {
          setName(e.target.value);
          setOperatorName(e.target.value);
        }}
      />
    </label>
  );
};
