import '@fontsource-variable/atkinson-hyperlegible-next/wght.css';
import CssBaseline from '@mui/material/CssBaseline';
import { ThemeProvider } from '@mui/material/styles';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { lazy, StrictMode, Suspense } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { Problem } from './api/client';
import { theme } from './design/theme';
import { Frame } from './frame/Frame';
import { SignedIn } from './people/SignedIn';
import { Today } from './today/Today';
import { Bench } from './bench/Bench';
import { warmEngine } from './bench/engine';
import { Guard } from './frame/Guard';
import { Waiting } from './frame/Waiting';

const Register = lazy(() => import('./register/Register'));
const ItemPage = lazy(() => import('./register/ItemPage'));
const NewItem = lazy(() => import('./register/NewItem'));
const Standards = lazy(() => import('./standards/Standards'));
const Signs = lazy(() => import('./signs/Signs'));

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      // Offline a request fails at once and says so, instead of waiting in silence.
      networkMode: 'always',
      // A refusal stays a refusal; only a missing answer is worth asking again.
      retry: (count, error) =>
        error instanceof Problem && (error.isAway || error.status === 503) && count < 2,
    },
    mutations: { networkMode: 'always' },
  },
});

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ThemeProvider theme={theme} defaultMode="system">
      <CssBaseline />
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <SignedIn>
            <Frame>
              <Guard>
                <Suspense fallback={<Waiting what="Opening the room" />}>
                  <Routes>
                    <Route path="/" element={<Today />} />
                    <Route path="/rounds/:roundId/bench/:itemId" element={<Bench />} />
                    <Route path="/rounds/:roundId/new" element={<NewItem />} />
                    <Route path="/register" element={<Register />} />
                    <Route path="/register/:itemId" element={<ItemPage />} />
                    <Route path="/standards/:standardId?" element={<Standards />} />
                    <Route path="/signs" element={<Signs />} />
                    <Route path="*" element={<Navigate to="/" replace />} />
                  </Routes>
                </Suspense>
              </Guard>
            </Frame>
          </SignedIn>
        </BrowserRouter>
      </QueryClientProvider>
    </ThemeProvider>
  </StrictMode>,
);

warmEngine();
