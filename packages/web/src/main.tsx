import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { ErrorBoundary } from 'react-error-boundary';
import { BrowserRouter, Route, Routes, useLocation } from 'react-router';
import './app.css';
import { Broken, Lost } from './ui/Lost';
import { allowStyles } from './ui/nonce';
import { Notices } from './ui/notices';
import { part } from './ui/part';

allowStyles();

const queries = new QueryClient({
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false, staleTime: 5000 } },
});

const ShelfPage = part(async () => (await import('./shelf/ShelfPage')).ShelfPage);
const ProjectPage = part(async () => (await import('./app/ProjectPage')).ProjectPage);

/** The pages by address. One that broke says so in its place, until one goes elsewhere. */
function Pages() {
  const { pathname } = useLocation();
  return (
    <ErrorBoundary FallbackComponent={Broken} resetKeys={[pathname]}>
      <Suspense fallback={null}>
        <Routes>
          <Route path="/" element={<ShelfPage />} />
          {/* Its stages are routes of its own, which come with it. */}
          <Route path="/projects/:projectId/*" element={<ProjectPage />} />
          <Route path="*" element={<Lost />} />
        </Routes>
      </Suspense>
    </ErrorBoundary>
  );
}

/** The page at an address; none where one is lost. */
const pageAt = (path: string) => (path === '/' ? ShelfPage : path.startsWith('/projects/') ? ProjectPage : null);

// Drawn once its code is here: what React shows in the place of something that is late, it shows for 300 ms at least.
void Promise.resolve(pageAt(location.pathname)?.fetch()).then(() =>
  createRoot(document.getElementById('root') as HTMLElement).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <Notices>
          <BrowserRouter>
            <Pages />
          </BrowserRouter>
        </Notices>
      </QueryClientProvider>
    </StrictMode>,
  ),
);
