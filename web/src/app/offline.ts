import { toast } from 'sonner';
import { fetchAllPages } from './router.tsx';

/** When the first page stands, the code of the others is fetched, ms. */
const AFTER_MS = 4000;

/**
 * Keeps the code of all pages in the browser. A service worker does it where the address is secure; on a school's own
 * network without a certificate there is none, and the pages' code is fetched ahead instead, for as long as the tab is open.
 */
export async function keepPages(): Promise<void> {
  if (import.meta.env.DEV) return;
  if (window.isSecureContext && 'serviceWorker' in navigator) {
    const { registerSW } = await import('virtual:pwa-register');
    const update = registerSW({
      immediate: true,
      onNeedRefresh: () =>
        void toast('A newer Vigilum is here.', {
          duration: 30_000,
          action: { label: 'Load it', onClick: () => void update(true) },
        }),
      // A browser that refuses the worker still gets the code ahead.
      onRegisterError: () => void fetchAllPages(),
    });
  } else window.setTimeout(() => void fetchAllPages(), AFTER_MS);
}
