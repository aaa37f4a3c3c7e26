import { useSyncExternalStore } from 'react';

const listen = (tell: () => void) => {
  document.addEventListener('visibilitychange', tell);
  return () => document.removeEventListener('visibilitychange', tell);
};

/** Whether this page is looked at. A browser gives one server six lines in all: pages behind others must not hold them. */
export const useVisible = (): boolean =>
  useSyncExternalStore(listen, () => document.visibilityState === 'visible');
