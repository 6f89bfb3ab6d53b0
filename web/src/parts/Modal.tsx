import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

/** A dialog: one question, over the page. */
export const Modal = ({
  open,
  onOpenChange,
  title,
  note,
  wide = false,
  children,
}: {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  note?: string;
  wide?: boolean;
  children: ReactNode;
}) => (
  <Dialog.Root open={open} onOpenChange={onOpenChange}>
    <Dialog.Portal>
      <Dialog.Overlay className="fixed inset-0 z-40 bg-black/45" />
      <Dialog.Content
        aria-describedby={undefined}
        className={`fixed left-1/2 top-1/2 z-50 max-h-[90dvh] w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-auto border border-ink bg-sheet p-6 ${wide ? 'max-w-4xl' : 'max-w-xl'}`}
      >
        <Dialog.Title className="text-lg font-bold">{title}</Dialog.Title>
        {note && <p className="mt-1 text-soft">{note}</p>}
        <div className="mt-4">{children}</div>
      </Dialog.Content>
    </Dialog.Portal>
  </Dialog.Root>
);
