import { useState } from 'react';

/** Whether the simulated machine stands in for the real one; remembered in this tab. */
export const useSimulated = (): [boolean, (on: boolean) => void] => {
  const [simulated, setSimulated] = useState(() => sessionStorage.getItem('bistre.sim') === 'yes');
  return [
    simulated,
    (on) => {
      sessionStorage.setItem('bistre.sim', on ? 'yes' : 'no');
      setSimulated(on);
    },
  ];
};
