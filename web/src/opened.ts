import { type ComponentType, lazy } from 'react';

/** Set while the page is loaded anew for a screen that is no longer there. */
const RELOADED = 'reloaded for a newer build';

/**
 * A screen that is loaded when it is opened, and ahead of that once the page has nothing else to do. Where its file is gone, the program was
 * replaced by a newer build under this page: the page is loaded anew, once.
 */
export function opened<Module>(load: () => Promise<Module>, screen: (module: Module) => ComponentType) {
  whenIdle(() => load().catch(() => {}));
  return lazy(async () => {
    try {
      const module = await load();
      sessionStorage.removeItem(RELOADED);
      return { default: screen(module) };
    } catch (error) {
      if (sessionStorage.getItem(RELOADED)) throw error;
      sessionStorage.setItem(RELOADED, 'yes');
      location.reload();
      return await new Promise<never>(() => {});
    }
  });
}

function whenIdle(action: () => void) {
  if ('requestIdleCallback' in window) requestIdleCallback(action, { timeout: 5000 });
  else setTimeout(action, 2000);
}
