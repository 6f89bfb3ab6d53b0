import { useState } from 'react';

const KEY = 'bistre.sim';

/** Lets the simulated machine stand in for the real one, in this tab. */
export const setSimulated = (on: boolean): void => sessionStorage.setItem(KEY, on ? 'yes' : 'no');

/** Whether the simulated machine stands in for the real one; remembered in this tab. */
export const useSimulated = (): [boolean, (on: boolean) => void] => {
  const [simulated, set] = useState(() => sessionStorage.getItem(KEY) === 'yes');
  return [
    simulated,
    (on) => {
      setSimulated(on);
      set(on);
    },
  ];
};
