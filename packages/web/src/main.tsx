import './ui/fonts.js';
import './ui/base.css';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { languageNow } from '@viaticum/contract';
import { setMeasures } from '@viaticum/core/units';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { createBrowserRouter, type RouteObject, redirect } from 'react-router';
import { RouterProvider } from 'react-router/dom';
import { ApiFailure } from './api/http.js';
import { sessionQuery } from './api/queries.js';
import { fetchComponentWords } from './ui/component-words.js';
import { ErrorView } from './ui/error-view.js';
import { fetchLanguage, speakOnPage } from './ui/language.js';
import { keptMeasures, takeMeasures } from './ui/measures.js';
import { Themed } from './ui/themed.js';

/** As this page began. */
const measures = keptMeasures();
const client = new QueryClient({
  defaultOptions: {
    queries: {
      retry: (count, error) => count < 2 && !(error instanceof ApiFailure && error.status >= 400 && error.status < 500),
      refetchOnWindowFocus: false,
    },
  },
});

const asksForSignIn = async ({ request }: { request: Request }) => {
  const { instructor } = await client.fetchQuery(sessionQuery);
  if (instructor) takeMeasures(instructor.measures);
  if (instructor && languageNow() !== measures.language) {
    // Another language than this page began in: it is kept now, and the page begins anew.
    location.reload();
    await new Promise(() => undefined);
  }
  if (!instructor) {
    const url = new URL(request.url);
    throw redirect(`/sign-in?to=${encodeURIComponent(url.pathname)}`);
  }
  return null;
};

const page = (load: () => Promise<{ default: React.ComponentType }>) => async () => ({ Component: (await load()).default });
const routes: RouteObject[] = [
  {
    ErrorBoundary: ErrorView,
    HydrateFallback: () => null,
    children: [
      { path: '/sign-in', lazy: page(() => import('./account/sign-in.js')) },
      { path: '/stored', lazy: page(() => import('./account/stored.js')) },
      { path: '/welcome/:token', lazy: page(() => import('./account/welcome.js')) },
      { path: '/account', loader: asksForSignIn, lazy: page(() => import('./account/account.js')) },
      { path: '/course/:id', loader: asksForSignIn, lazy: page(() => import('./shelf/course.js')) },
      { path: '/shared/:token', loader: asksForSignIn, lazy: page(() => import('./shelf/shared.js')) },
      { path: '/', loader: asksForSignIn, lazy: page(() => import('./shelf/shelf.js')) },
      {
        path: '/lesson/:id',
        loader: asksForSignIn,
        lazy: page(() => import('./lesson/workbench.js')),
        children: [
          { path: 'picture/:topic?', lazy: page(() => import('./stations/picture/picture.js')) },
          { path: 'paints/:topic?', lazy: page(() => import('./stations/paints/paints.js')) },
          { path: 'steps/:topic?', lazy: page(() => import('./stations/steps/steps.js')) },
          { path: 'transfers/:topic?', lazy: page(() => import('./stations/transfers/transfers.js')) },
          { path: 'kit/:topic?', lazy: page(() => import('./stations/kit/kit.js')) },
          { path: 'video/:topic?', lazy: page(() => import('./stations/video/video.js')) },
          { path: 'log/:topic?', lazy: page(() => import('./stations/log/log.js')) },
          { path: 'class/:topic?', lazy: page(() => import('./stations/class/class.js')) },
          { index: true, loader: () => redirect('steps'), Component: () => null },
        ],
      },
      { path: '/lesson/:id/read', loader: asksForSignIn, lazy: page(() => import('./read/read-through.js')) },
      { path: '/lesson/:id/trace', loader: asksForSignIn, lazy: page(() => import('./trace/trace.js')) },
      { path: '/desk/:code', loader: asksForSignIn, lazy: page(() => import('./live/desk/desk.js')) },
      { path: '/assist/:code', lazy: page(() => import('./live/desk/assist.js')) },
      { path: '/co/:code', lazy: page(() => import('./live/desk/co-desk.js')) },
      { path: '/class/:code', loader: asksForSignIn, lazy: page(() => import('./live/record/record.js')) },
      { path: '/lists/:token', lazy: page(() => import('./live/lists/lists.js')) },
      { path: '/wall/:code', lazy: page(() => import('./live/wall/wall.js')) },
      { path: '*', loader: () => redirect('/') },
    ],
  },
];

const root = document.getElementById('root');
// Nothing is said before its sentences are there; without them it is said in English.
await fetchLanguage(measures.language ?? 'en').catch(() => undefined);
setMeasures(measures);
speakOnPage(languageNow());
await fetchComponentWords().catch(() => undefined);
// Pages are fetched once the language is there: some of their lists are made when they are read.
const router = createBrowserRouter(routes);
if (root) {
  createRoot(root).render(
    <StrictMode>
      <Themed>
        <QueryClientProvider client={client}>
          <RouterProvider router={router} />
        </QueryClientProvider>
      </Themed>
    </StrictMode>,
  );
}
