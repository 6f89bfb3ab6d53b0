import { materialCautions, neverBurned } from '@bistre/core';
import { Caution, Finding } from '../../parts/Part';

/** What a material asks for, each with what it rests on; that it is never burned first. */
export const OfMaterial = ({ material }: { material: string | null | undefined }) => {
  const never = neverBurned(material);
  const others = materialCautions(material).filter((c) => c.kind !== 'never');
  return (
    <>
      {never && <Finding tone="out">{never}</Finding>}
      {others.map((c) => (
        <div key={c.says} className="mb-2">
          <Caution>
            {c.says} <span className="text-soft">({c.basis})</span>
          </Caution>
        </div>
      ))}
    </>
  );
};
