import { lazy, Suspense, useState } from 'react';
import { Outlet } from 'react-router';
import { Toaster } from 'sonner';
import { AskHost } from './ask';
import { useHotkey } from './hotkeys';

const Palette = lazy(async () => ({ default: (await import('./Palette')).Palette }));
const KeysDialog = lazy(async () => ({ default: (await import('./KeysDialog')).KeysDialog }));

/** Past what stands on every page, to what this one is about. */
const toWork = (): void => {
  const main = document.querySelector('main');
  if (!main) return;
  main.tabIndex = -1;
  main.focus();
};

/** What is around every view: messages, the palette and the list of keys. */
export const Shell = () => {
  const [finding, setFinding] = useState(false);
  const [keys, setKeys] = useState(false);
  useHotkey('/', () => setFinding(true));
  useHotkey('?', () => setKeys(true));
  return (
    <>
      <button className="skip" onClick={toWork}>
        Skip to the work
      </button>
      <Suspense fallback={<p className="p-8 text-soft">Opening …</p>}>
        <Outlet context={{ find: () => setFinding(true) }} />
      </Suspense>
      <Suspense>{finding && <Palette open onOpenChange={setFinding} />}</Suspense>
      <Suspense>{keys && <KeysDialog open onOpenChange={setKeys} />}</Suspense>
      <AskHost />
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
