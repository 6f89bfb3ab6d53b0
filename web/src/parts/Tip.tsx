import { useRef, useState, type ReactNode } from 'react';
import { Tooltip } from 'radix-ui';

const Bubble = ({ children }: { children: ReactNode }) => (
  <Tooltip.Portal>
    <Tooltip.Content
      sideOffset={4}
      collisionPadding={8}
      className="z-50 max-w-80 border border-ink bg-sheet px-2.5 py-1.5 text-[15px] text-ink"
    >
      {children}
    </Tooltip.Content>
  </Tooltip.Portal>
);

/** What more there is to say of a button: shown when it is pointed at or has the focus. */
export const Tip = ({ says, children }: { says: string; children: ReactNode }) => (
  <Tooltip.Provider delayDuration={300}>
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Bubble>{says}</Bubble>
    </Tooltip.Root>
  </Tooltip.Provider>
);

/**
 * Words on one line. Where there is no room for all of them they are whole in a tip when they are pointed at or touched. The tip is made when it is wanted: a page has many such lines.
 */
export const OneLine = ({ text }: { text: string }) => {
  const place = useRef<HTMLSpanElement>(null);
  const [pointed, setPointed] = useState(false);
  const cut = pointed && place.current !== null && place.current.scrollWidth > place.current.clientWidth;
  return (
    <span
      ref={place}
      className="relative block truncate"
      onPointerEnter={() => setPointed(true)}
      onPointerLeave={(e) => {
        if (e.pointerType !== 'touch') setPointed(false);
      }}
    >
      {text}
      {cut && (
        <Tooltip.Provider>
          <Tooltip.Root open onOpenChange={setPointed}>
            <Tooltip.Trigger asChild>
              <span className="pointer-events-none absolute inset-0" />
            </Tooltip.Trigger>
            <Bubble>{text}</Bubble>
          </Tooltip.Root>
        </Tooltip.Provider>
      )}
    </span>
  );
};
