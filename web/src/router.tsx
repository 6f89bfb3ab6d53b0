import { createBrowserRouter, type RouteObject } from 'react-router';
import { Shell } from './parts/Shell';
import { Board } from './views/Board';
import { Failed, NotHere } from './views/Failed';

/** Every address of the pages. */
export const routes: RouteObject[] = [
  {
    element: <Shell />,
    errorElement: <Failed />,
    children: [
      { path: '/', element: <Board /> },
      { path: '/new', lazy: async () => ({ Component: (await import('./views/new/NewBatch')).NewBatch }) },
      { path: '/read-in', lazy: async () => ({ Component: (await import('./views/new/ReadIn')).ReadIn }) },
      { path: '/log', lazy: async () => ({ Component: (await import('./views/Log')).Log }) },
      { path: '/shelf/:kind?', lazy: async () => ({ Component: (await import('./views/Shelf')).Shelf }) },
      { path: '/shelf/:kind/:id', lazy: async () => ({ Component: (await import('./views/ShelfItem')).ShelfItem }) },
      { path: '/batches/:id/again', lazy: async () => ({ Component: (await import('./views/new/Again')).Again }) },
      { path: '/batches/:id/bench', lazy: async () => ({ Component: (await import('./views/Bench')).Bench }) },
      {
        path: '/batches/:id/:station?',
        lazy: async () => ({ Component: (await import('./views/Workspace')).Workspace }),
      },
      { path: '*', element: <NotHere /> },
    ],
  },
];

export const router = createBrowserRouter(routes);
