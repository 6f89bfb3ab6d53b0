import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { QueryClientProvider } from '@tanstack/react-query';
import { RouterProvider } from 'react-router';
import { outbox } from './data/outbox';
import { queryClient } from './data/queries';
import { router } from './router';
import './styles.css';

// What was written before a reload goes on from where it stood.
void outbox.look();
// What reckons a batch is read while the batch is fetched.
if (location.pathname.startsWith('/batches/')) void import('./data/worker').then(({ reckoner }) => reckoner());

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
