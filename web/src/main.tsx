import { QueryClientProvider } from '@tanstack/react-query';
import { setNonce } from 'get-nonce';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { BrowserRouter, Navigate, Route, Routes } from 'react-router';
import { Frame } from './frame/Frame';
import { Gate } from './frame/Gate';
import { LightProvider } from './light/light';
import { NoticeProvider } from './parts/Notice';
import './styles.css';
import { opened } from './opened';
import { Answers } from './state/answers';

const About = opened(
  () => import('./screens/about/About'),
  (module) => module.About,
);
const Backups = opened(
  () => import('./screens/backups/Backups'),
  (module) => module.Backups,
);
const Board = opened(
  () => import('./screens/board/Board'),
  (module) => module.Board,
);
const Card = opened(
  () => import('./screens/board/Card'),
  (module) => module.Card,
);
const Jar = opened(
  () => import('./screens/jars/Jar'),
  (module) => module.Jar,
);
const Jars = opened(
  () => import('./screens/jars/Jars'),
  (module) => module.Jars,
);
const JarLabels = opened(
  () => import('./screens/jars/JarLabels'),
  (module) => module.JarLabels,
);
const Label = opened(
  () => import('./screens/label/Label'),
  (module) => module.Label,
);
const Log = opened(
  () => import('./screens/log/Log'),
  (module) => module.Log,
);
const Network = opened(
  () => import('./screens/network/Network'),
  (module) => module.Network,
);
const OnPhoto = opened(
  () => import('./screens/piece/photo/OnPhoto'),
  (module) => module.OnPhoto,
);
const Piece = opened(
  () => import('./screens/piece/Piece'),
  (module) => module.Piece,
);
const Record = opened(
  () => import('./screens/piece/Record'),
  (module) => module.Record,
);
const Reference = opened(
  () => import('./screens/piece/Reference'),
  (module) => module.Reference,
);
const Sheet = opened(
  () => import('./screens/piece/Sheet'),
  (module) => module.Sheet,
);
const Pot = opened(
  () => import('./screens/pot/Pot'),
  (module) => module.Pot,
);
const Practice = opened(
  () => import('./screens/practice/Practice'),
  (module) => module.Practice,
);
const Quotes = opened(
  () => import('./screens/quote/Quotes'),
  (module) => module.Quotes,
);
const RunSheet = opened(
  () => import('./screens/runsheet/RunSheet'),
  (module) => module.RunSheet,
);
const Shelf = opened(
  () => import('./screens/shelf/Shelf'),
  (module) => module.Shelf,
);

const Template = opened(
  () => import('./screens/piece/Template'),
  (module) => module.Template,
);
const TouchUp = opened(
  () => import('./screens/piece/TouchUp'),
  (module) => module.TouchUp,
);

// Dialogs add a style element while they are open; the page's policy allows it by this nonce.
setNonce(document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content ?? '');

const client = new Answers({
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
        <Gate>
          <LightProvider>
            <NoticeProvider>
              <BrowserRouter>
                <Routes>
                  <Route element={<Frame />}>
                    <Route path="/piece" element={<Piece />} />
                    <Route path="/piece/photo" element={<Reference />} />
                    <Route path="/piece/on-photo" element={<OnPhoto />} />
                    <Route path="/piece/record" element={<Record />} />
                    <Route path="/piece/touch-up" element={<TouchUp />} />
                    <Route path="/piece/template" element={<Template />} />
                    <Route path="/piece/sheet" element={<Sheet />} />
                    <Route path="/quotes" element={<Quotes />} />
                    <Route path="/shelf/:id?" element={<Shelf />} />
                    <Route path="/pot/:id?" element={<Pot />} />
                    <Route path="/board/:id?" element={<Board />} />
                    <Route path="/board/:id/card" element={<Card />} />
                    <Route path="/run-sheet" element={<RunSheet />} />
                    <Route path="/log" element={<Log />} />
                    <Route path="/backups" element={<Backups />} />
                    <Route path="/network" element={<Network />} />
                    <Route path="/practice" element={<Practice />} />
                    <Route path="/about" element={<About />} />
                    <Route path="/label/:id" element={<Label />} />
                    <Route path="/jars" element={<Jars />} />
                    <Route path="/jars/labels" element={<JarLabels />} />
                    <Route path="/jars/:id" element={<Jar />} />
                    <Route path="*" element={<Navigate to="/piece" replace />} />
                  </Route>
                </Routes>
              </BrowserRouter>
            </NoticeProvider>
          </LightProvider>
        </Gate>
      </QueryClientProvider>
    </StrictMode>,
  );
}

// Browsers offer it only over HTTPS and on this machine. Without it, only opening the page offline does not work.
if (import.meta.env.PROD && 'serviceWorker' in navigator)
  window.addEventListener('load', () => {
    navigator.serviceWorker.register('/service-worker.js').catch(() => undefined);
  });
