import type { BatchHandle } from '../../data/use-batch';
import { useSimulated } from '../../parts/use-simulated';
import { SimBurn } from './SimBurn';

/** The simulated machine burns the file of this step, where it is in use. */
export const SimulatedBurn = ({ handle }: { handle: BatchHandle }) => {
  const [simulated, setSimulated] = useSimulated();
  return simulated ? (
    <SimBurn handle={handle} large />
  ) : (
    <button className="link mt-2" onClick={() => setSimulated(true)}>
      use the simulated machine
    </button>
  );
};
