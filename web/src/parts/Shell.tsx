import { Suspense, useState } from 'react';
import { Outlet } from 'react-router';
import { Toaster } from 'sonner';
import { useHotkey } from './hotkeys';
import { KeysDialog } from './KeysDialog';
import { Palette } from './Palette';

/** What is around every view: messages, the palette and the list of keys. */
export const Shell = () => {
  const [finding, setFinding] = useState(false);
  const [keys, setKeys] = useState(false);
  useHotkey('/', () => setFinding(true));
  useHotkey('?', () => setKeys(true));
  return (
    <>
      <Suspense fallback={<p className="p-8 text-soft">Opening …</p>}>
        <Outlet context={{ find: () => setFinding(true) }} />
      </Suspense>
      <Palette open={finding} onOpenChange={setFinding} />
      <KeysDialog open={keys} onOpenChange={setKeys} />
      <Toaster
        position="bottom-right"
        toastOptions={{
          style: {
            borderRadius: 2,
            background: 'var(--sheet)',
            color: 'var(--ink)',
            border: '1px solid var(--rim)',
            boxShadow: 'none',
            fontFamily: 'inherit',
          },
        }}
      />
    </>
  );
};
