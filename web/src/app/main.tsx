import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router/dom';
import { startShown } from '../data/offlineCache.ts';
import { queryClient } from '../data/queries.ts';
import '../styles.css';
import '../ui/theme.ts';
import { startOutbox } from '../saving/box.ts';
import { Loading } from '../ui/states.tsx';
import { keepPages } from './offline.ts';
import { router } from './router.tsx';

// The editor's code comes only where a script is waiting to be sent.
const taken = startOutbox(async (record) => {
  if (record.is === 'script') (await import('../script/sessions.ts')).reviveScript(record);
});
void keepPages();

const root = createRoot(document.getElementById('root')!);
root.render(<Loading what="Vigilum" />);
// What is shown goes on from what was written: that is taken up first.
await Promise.all([startShown(queryClient), taken]);
root.render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
