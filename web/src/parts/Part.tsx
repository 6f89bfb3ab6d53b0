import type { ReactNode } from 'react';

/** One of the four parts of a station: Measure, Reckon, Do, Check. */
export const Part = ({
  name,
  children,
  aside,
}: {
  name: 'Measure' | 'Reckon' | 'Do' | 'Check';
  children: ReactNode;
  aside?: ReactNode;
}) => (
  <section aria-label={name} className="pb-4">
    <div className="part-title flex justify-between">
      <h2>{name}</h2>
      <span className="tracking-normal normal-case">{aside}</span>
    </div>
    <div className="mt-2">{children}</div>
  </section>
);

/** A short caution where the step is. */
export const Caution = ({ children }: { children: ReactNode }) => (
  <p role="note" className="border-l-4 border-ochre bg-wash px-3 py-2 text-[13px]">
    {children}
  </p>
);

/** The usual caution beside a file that burns; `children` say who else is asked. */
export const BurnCaution = ({ children }: { children: ReactNode }) => (
  <Caution>
    A person at the machine starts the burn: door shut, extraction on, eyewear for this wavelength, someone stays.{' '}
    {children}
  </Caution>
);

/** A finding that wants an answer or a correction. */
export const Finding = ({ tone, children }: { tone: 'out' | 'attention' | 'inside'; children: ReactNode }) => {
  const [edge, word] = {
    out: ['border-oxide', 'Wrong'],
    attention: ['border-ochre', 'Look'],
    inside: ['border-verdigris', 'Good'],
  }[tone] as [string, string];
  return (
    <p className={`border-l-4 ${edge} bg-sheet px-3 py-1.5`}>
      <b className={`mr-2 ${tone === 'out' ? 'text-oxide' : tone === 'attention' ? 'text-ochre' : 'text-verdigris'}`}>
        {word}:
      </b>
      {children}
    </p>
  );
};
