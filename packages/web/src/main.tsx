import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, RouterProvider } from 'react-router';
import './app.css';
import { Lost } from './ui/Lost';
import { allowStyles } from './ui/nonce';
import { Notices } from './ui/notices';

allowStyles();

const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false, staleTime: 5000 } },
});

const router = createBrowserRouter([
  {
    path: '/',
    lazy: async () => ({ Component: (await import('./shelf/ShelfPage')).ShelfPage }),
    HydrateFallback: () => null,
    errorElement: <Lost />,
  },
  {
    // Its stages are routes of its own, which come with it.
    path: '/projects/:projectId/*',
    lazy: async () => ({ Component: (await import('./app/ProjectPage')).ProjectPage }),
    HydrateFallback: () => null,
    errorElement: <Lost />,
  },
  { path: '*', element: <Lost /> },
]);

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <Notices>
        <RouterProvider router={router} />
      </Notices>
    </QueryClientProvider>
  </StrictMode>,
);
