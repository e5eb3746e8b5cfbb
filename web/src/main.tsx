import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { setNonce } from 'get-nonce';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { Frame } from './frame/Frame';
import { LightProvider } from './light/light';
import { NoticeProvider } from './parts/Notice';
import { About } from './screens/about/About';
import { Board } from './screens/board/Board';
import { Label } from './screens/label/Label';
import { Log } from './screens/log/Log';
import { Piece } from './screens/piece/Piece';
import { Record } from './screens/piece/Record';
import { Reference } from './screens/piece/Reference';
import { Sheet } from './screens/piece/Sheet';
import { Pot } from './screens/pot/Pot';
import { RunSheet } from './screens/runsheet/RunSheet';
import { Shelf } from './screens/shelf/Shelf';
import './styles.css';

// Dialogs add a style element while they are open; the page's policy allows it by this nonce.
setNonce(document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content ?? '');

const client = new QueryClient({
  // The program is on this machine: whether there is a network says nothing. Another tab may have changed what is kept; what was predicted of a draft stays what it is.
  defaultOptions: {
    queries: { retry: 1, retryDelay: 400, refetchOnWindowFocus: true, networkMode: 'always' },
    mutations: { networkMode: 'always' },
  },
});

const root = document.getElementById('root');
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <LightProvider>
          <NoticeProvider>
            <BrowserRouter>
              <Routes>
                <Route element={<Frame />}>
                  <Route path="/piece" element={<Piece />} />
                  <Route path="/piece/photo" element={<Reference />} />
                  <Route path="/piece/record" element={<Record />} />
                  <Route path="/piece/sheet" element={<Sheet />} />
                  <Route path="/shelf/:id?" element={<Shelf />} />
                  <Route path="/pot/:id?" element={<Pot />} />
                  <Route path="/board/:id?" element={<Board />} />
                  <Route path="/run-sheet" element={<RunSheet />} />
                  <Route path="/log" element={<Log />} />
                  <Route path="/about" element={<About />} />
                  <Route path="/label/:id" element={<Label />} />
                  <Route path="*" element={<Navigate to="/piece" replace />} />
                </Route>
              </Routes>
            </BrowserRouter>
          </NoticeProvider>
        </LightProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
}
