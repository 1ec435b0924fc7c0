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
import { SignedIn, useMe } from './people/SignedIn';
import { Welcome } from './people/Welcome';
import { Today } from './today/Today';
import { Bench } from './bench/Bench';
import { warmEngine } from './bench/engine';
import { Guard } from './frame/Guard';
import { Waiting } from './frame/Waiting';

const Loose = lazy(() => import('./bench/Loose'));
const Register = lazy(() => import('./register/Register'));
const ItemPage = lazy(() => import('./register/ItemPage'));
const NewItem = lazy(() => import('./register/NewItem'));
const Standards = lazy(() => import('./standards/Standards'));
const People = lazy(() => import('./people/People'));
const OwnAccount = lazy(() => import('./people/OwnAccount'));
const Books = lazy(() => import('./trust/Books'));
const PublicPage = lazy(() => import('./public/PublicPage'));
const Rounds = lazy(() => import('./rounds/Rounds'));
const RoundPage = lazy(() => import('./rounds/RoundPage'));
const Kit = lazy(() => import('./kit/Kit'));
const KitThing = lazy(() => import('./kit/KitThing'));
const Procedures = lazy(() => import('./procedures/Procedures'));
const ProcedurePage = lazy(() => import('./procedures/ProcedurePage'));
const NewProcedure = lazy(() => import('./procedures/NewProcedure'));
const PaperPage = lazy(() => import('./papers/PaperPage'));
const Papers = lazy(() => import('./papers/Papers'));
const RegisterPaperPage = lazy(() => import('./papers/RegisterPaperPage'));
const AnswerPage = lazy(() => import('./papers/AnswerPage'));
const RoundPaperPage = lazy(() => import('./papers/RoundPaperPage'));
const Evidence = lazy(() => import('./evidence/Evidence'));
const Labels = lazy(() => import('./papers/Labels'));
const ReviewPage = lazy(() => import('./review/ReviewPage'));
const Quarantine = lazy(() => import('./quarantine/Quarantine'));
const Hire = lazy(() => import('./hire/Hire'));
const Schedule = lazy(() => import('./schedule/Schedule'));
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

/** A reader has no rounds to walk. */
const Home = () => (useMe().role === 'viewer' ? <Navigate to="/register" replace /> : <Today />);

/** Everything behind the sign-in. */
const House = () => (
  <SignedIn>
    <Frame>
      <Guard>
        <Suspense fallback={<Waiting what="Opening the room" />}>
          <Routes>
            <Route path="/" element={<Home />} />
            <Route path="/rounds" element={<Rounds />} />
            <Route path="/rounds/:roundId" element={<RoundPage />} />
            <Route path="/rounds/:roundId/bench/:itemId" element={<Bench />} />
            <Route path="/rounds/:roundId/new" element={<NewItem />} />
            <Route path="/rounds/:roundId/loose" element={<Loose />} />
            <Route path="/register" element={<Register />} />
            <Route path="/register/:itemId" element={<ItemPage />} />
            <Route path="/standards/:standardId?" element={<Standards />} />
            <Route path="/kit" element={<Kit />} />
            <Route path="/kit/:kitId" element={<KitThing />} />
            <Route path="/procedures" element={<Procedures />} />
            <Route path="/procedures/new" element={<NewProcedure />} />
            <Route path="/procedures/:procedureId" element={<ProcedurePage />} />
            <Route path="/rounds/:roundId/review" element={<ReviewPage />} />
            <Route path="/labels" element={<Labels />} />
            <Route path="/papers" element={<Papers />} />
            <Route path="/papers/rounds/:roundId" element={<RoundPaperPage />} />
            <Route path="/papers/register/:client" element={<RegisterPaperPage />} />
            <Route path="/papers/items/:itemId" element={<AnswerPage />} />
            <Route path="/papers/inspections/:inspectionId" element={<PaperPage />} />
            <Route path="/quarantine" element={<Quarantine />} />
            <Route path="/hire" element={<Hire />} />
            <Route path="/schedule" element={<Schedule />} />
            <Route path="/evidence/:kind?/:place?" element={<Evidence />} />
            <Route path="/signs" element={<Signs />} />
            <Route path="/people" element={<People />} />
            <Route path="/books" element={<Books />} />
            <Route path="/me" element={<OwnAccount />} />
            <Route path="*" element={<Navigate to="/" replace />} />
          </Routes>
        </Suspense>
      </Guard>
    </Frame>
  </SignedIn>
);

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <ThemeProvider theme={theme} defaultMode="system">
      <CssBaseline />
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Routes>
            <Route path="/welcome" element={<Welcome />} />
            <Route
              path="/u/:token"
              element={
                <Suspense fallback={<Waiting what="Opening the page" />}>
                  <PublicPage />
                </Suspense>
              }
            />
            <Route path="*" element={<House />} />
          </Routes>
        </BrowserRouter>
      </QueryClientProvider>
    </ThemeProvider>
  </StrictMode>,
);

warmEngine();
