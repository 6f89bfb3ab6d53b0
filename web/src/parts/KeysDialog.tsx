import { Modal } from './Modal';

const KEYS: readonly (readonly [string, string])[] = [
  ['/', 'find a batch, a station or a thing of the Shelf'],
  ['[', 'previous station'],
  [']', 'next station'],
  ['b', 'bench view'],
  ['u', 'take the last change back'],
  ['Enter', 'keep a reading and go to the next'],
  ['← →', 'bench view: back and next'],
  ['?', 'this list'],
];

export const KeysDialog = ({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) => (
  <Modal open={open} onOpenChange={onOpenChange} title="Keys" note="Not while typing in a field.">
    <dl className="grid grid-cols-[5rem_1fr] gap-y-2">
      {KEYS.map(([key, what]) => (
        <div key={key} className="contents">
          <dt>
            <kbd className="border border-rim px-2 py-0.5">{key}</kbd>
          </dt>
          <dd>{what}</dd>
        </div>
      ))}
    </dl>
  </Modal>
);
