/** Below which path the application stands; "" at the root of its host. */
export const base = document.documentElement.dataset.base ?? "";

/** An address of the application as the browser must ask for it. */
export const address = (path: string) => base + path;

/** Goes to an address of the application, and leaves everything that the page holds. */
export const goTo = (path: string) => location.assign(address(path));
