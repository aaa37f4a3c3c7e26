import { QueryClientProvider } from '@tanstack/react-query';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { RouterProvider } from 'react-router/dom';
import { queryClient } from '../data/queries.ts';
import '../styles.css';
import '../ui/theme.ts';
import { startOutbox } from '../saving/box.ts';
import { keepPages } from './offline.ts';
import { router } from './router.tsx';

// The editor's code comes only where a script is waiting to be sent.
startOutbox(async (record) => {
  if (record.is === 'script') (await import('../script/sessions.ts')).reviveScript(record);
});
void keepPages();

createRoot(document.getElementById('root')!).render(
  <StrictMode>
    <QueryClientProvider client={queryClient}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);
