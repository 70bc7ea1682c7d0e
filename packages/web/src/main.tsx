import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { Tooltip } from 'radix-ui';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, Navigate, RouterProvider } from 'react-router';
import './app.css';
import { BenchPage } from './bench/BenchPage';
import { DeliveriesPage } from './deliveries/DeliveriesPage';
import { ProjectPage } from './project/ProjectPage';
import { ProofPage } from './proof/ProofPage';
import { ShelfPage } from './shelf/ShelfPage';
import { Lost } from './ui/Lost';
import { allowStyles } from './ui/nonce';
import { Notices } from './ui/notices';

allowStyles();

const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false, staleTime: 5000 } },
});

const router = createBrowserRouter([
  { path: '/', element: <ShelfPage />, errorElement: <Lost /> },
  {
    path: '/projects/:projectId',
    element: <ProjectPage />,
    errorElement: <Lost />,
    children: [
      { index: true, element: <Navigate to="bench" replace /> },
      { path: 'bench', element: <BenchPage /> },
      { path: 'proof', element: <ProofPage /> },
      { path: 'deliveries', element: <DeliveriesPage /> },
      { path: 'deliveries/:deliveryId', element: <DeliveriesPage /> },
    ],
  },
  { path: '*', element: <Lost /> },
]);

createRoot(document.getElementById('root') as HTMLElement).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <Tooltip.Provider>
        <Notices>
          <RouterProvider router={router} />
        </Notices>
      </Tooltip.Provider>
    </QueryClientProvider>
  </StrictMode>,
);
